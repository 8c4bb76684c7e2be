// Signal flags: hoists a flag in the colour of its buoy. Needs Buoys.
(function (global) {
  function hoist() {
    document.querySelectorAll('[data-flag]').forEach(function (spot) {
      var buoy = global.Buoys.named(spot.dataset.buoy || 'Gull');
      spot.style.borderInlineStart = '3px solid ' + buoy.colour;
    });
  }
  global.SignalFlags = { hoist: hoist };
  hoist();
})(window);
