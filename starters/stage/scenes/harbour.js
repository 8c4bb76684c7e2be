// A scene is a name and a function that draws one moment of it.
window.scenes = window.scenes || [];
window.scenes.push({
  name: 'Harbour',
  draw(pen, width, height, seconds, wind) {
    pen.fillStyle = '#cfe6ea';
    pen.fillRect(0, 0, width, height);
    pen.fillStyle = '#f3b35f';
    pen.beginPath();
    pen.arc(width * 0.75, height * 0.3, height * 0.1, 0, Math.PI * 2);
    pen.fill();
    drawSea(pen, width, height, seconds, wind, ['#7fb0b8', '#3f7f8c', '#1e5563'], '#b5472f');
  },
});

/** Three rows of waves, and a boat on the second one. */
function drawSea(pen, width, height, seconds, wind, colours, hull) {
  const top = (x, row) => height * (0.55 + row * 0.13) + Math.sin(x / 90 + seconds * (1 + row * 0.4) + row) * (6 + wind * 3);
  colours.forEach((colour, row) => {
    if (row === 1) drawBoat(pen, ((width * 0.4 + seconds * (20 + wind * 12)) % (width + 200)) - 100, height, hull, (x) => top(x, 1));
    pen.fillStyle = colour;
    pen.beginPath();
    pen.moveTo(0, height);
    for (let x = 0; x <= width; x += 16) pen.lineTo(x, top(x, row));
    pen.lineTo(width, height);
    pen.fill();
  });
}

function drawBoat(pen, x, height, hull, waterAt) {
  const size = height / 12;
  pen.save();
  pen.translate(x, waterAt(x) - size * 0.1);
  pen.rotate((waterAt(x + 20) - waterAt(x - 20)) / 60);
  pen.fillStyle = hull;
  pen.beginPath();
  pen.moveTo(-size, -size * 0.5);
  pen.lineTo(size * 1.2, -size * 0.5);
  pen.lineTo(size * 0.8, size * 0.4);
  pen.lineTo(-size * 0.8, size * 0.4);
  pen.fill();
  pen.fillStyle = '#fdf6e8';
  pen.fillRect(-size * 0.5, -size * 1.1, size, size * 0.6);
  pen.restore();
}
