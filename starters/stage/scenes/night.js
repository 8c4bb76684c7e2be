window.scenes = window.scenes || [];
window.scenes.push({
  name: 'Night',
  draw(pen, width, height, seconds, wind) {
    pen.fillStyle = '#141d33';
    pen.fillRect(0, 0, width, height);
    pen.fillStyle = '#f2ead2';
    for (let star = 0; star < 40; star++) {
      const glow = 0.4 + 0.6 * Math.abs(Math.sin(seconds + star));
      pen.globalAlpha = glow;
      pen.fillRect((star * 331) % width, (star * 173) % (height * 0.45), 3, 3);
    }
    pen.globalAlpha = 1;
    drawSea(pen, width, height, seconds, wind, ['#2c4468', '#203555', '#16263f'], '#d9a441');
  },
});
