/** Plays scenes on a canvas, and stands still for visitors who ask for less motion. */
class Stage {
  constructor(canvas, scenes) {
    this.canvas = canvas;
    this.pen = canvas.getContext('2d');
    this.scenes = scenes;
    this.index = 0;
    this.wind = 1;
    this.seconds = 0;
    this.playing = !matchMedia('(prefers-reduced-motion: reduce)').matches;
    this.last = performance.now();
  }

  get scene() {
    return this.scenes[this.index];
  }

  next() {
    this.index = (this.index + 1) % this.scenes.length;
    this.draw();
  }

  draw() {
    this.scene.draw(this.pen, this.canvas.width, this.canvas.height, this.seconds, this.wind);
  }

  run = (now) => {
    if (this.playing) this.seconds += Math.min(now - this.last, 100) / 1000;
    this.last = now;
    this.draw();
    requestAnimationFrame(this.run);
  };
}
