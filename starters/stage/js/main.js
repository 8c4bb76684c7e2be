const stage = new Stage(document.querySelector('#stage'), window.scenes);
const pause = document.querySelector('#pause');

function show() {
  document.querySelector('#scene').textContent = stage.scene.name;
  document.querySelector('#wind').textContent = `${stage.wind} of 5`;
  pause.textContent = stage.playing ? 'Pause' : 'Play';
  pause.setAttribute('aria-pressed', String(!stage.playing));
}

pause.addEventListener('click', () => {
  stage.playing = !stage.playing;
  show();
});
document.querySelector('#next').addEventListener('click', () => {
  stage.next();
  show();
});
document.querySelector('#ring').addEventListener('click', () => {
  document.querySelector('#bell').play();
});

// Data arrives over http only; a page that is opened from a folder keeps the wind it has.
fetch('data/weather.json')
  .then((answer) => answer.json())
  .then(({ wind }) => {
    stage.wind = wind;
    show();
  })
  .catch(() => {});

for (const spot of document.querySelectorAll('[data-year]')) {
  spot.textContent = ` · ${new Date().getFullYear()}`;
}
show();
requestAnimationFrame(stage.run);
