// Loaded before the program: ends it, as a power cut would, right before the call of the disk that KILL_AT counts. Half
// of what that call was to write is there then. With KILL_AT=0 it tells at the end how many calls there were, and which
// of them changed something outside of where changes are prepared.
import fs from 'node:fs';
import promises from 'node:fs/promises';
import { syncBuiltinESMExports } from 'node:module';

const at = Number(process.env.KILL_AT);
let calls = 0;
const telling = [];

function step(half = () => {}) {
  calls++;
  if (calls !== at) return;
  half();
  process.kill(process.pid, 'SIGKILL');
  Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0);
}

const { writeFileSync, writeSync } = fs;
for (const name of [
  'mkdirSync',
  'renameSync',
  'linkSync',
  'unlinkSync',
  'rmdirSync',
  'rmSync',
  'chmodSync',
  'fsyncSync',
]) {
  const original = fs[name];
  fs[name] = (...all) => {
    step();
    const place = all.filter((one) => typeof one === 'string').at(-1) ?? '.cravel';
    if (!place.includes('.cravel')) telling.push(calls);
    return original(...all);
  };
}
fs.writeFileSync = (file, data, ...rest) => {
  step(() => writeFileSync(file, data.slice(0, data.length / 2), ...rest));
  return writeFileSync(file, data, ...rest);
};
const { open } = promises;
promises.open = async (...all) => {
  step();
  const handle = await open(...all);
  const { writeFile, sync } = handle;
  handle.writeFile = async (bytes) => {
    step(() => writeSync(handle.fd, bytes.subarray(0, bytes.length / 2)));
    return writeFile.call(handle, bytes);
  };
  handle.sync = async () => {
    step();
    return sync.call(handle);
  };
  return handle;
};
syncBuiltinESMExports();
if (at === 0) process.on('exit', () => writeSync(2, `\n${calls} calls, telling: ${telling.join(' ')}\n`));
