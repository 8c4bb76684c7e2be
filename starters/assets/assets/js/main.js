// The year in the footer is always this one.
for (const spot of document.querySelectorAll('[data-year]')) {
  spot.textContent = String(new Date().getFullYear());
}
