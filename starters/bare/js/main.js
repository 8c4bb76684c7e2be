// What every page does.
