/** A run that takes its turn in a project over and over: `<folder> <times>`. Says so where it is not alone there. */

import { appendFileSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { asWritten } from '../../src/disk/disk-path.ts';
import { whileLocked } from '../../src/disk/journal.ts';

const [folder = '', times = '0'] = process.argv.slice(2);
const mark = join(folder, 'mark');

/** The process that is in its turn; one that was killed there left its mark, empty where it had just made it. */
function inside(): number | null {
  try {
    const id = Number(readFileSync(mark, 'utf8'));
    // As a process, 0 is whoever asks.
    return id !== 0 && process.kill(id, 0) ? id : null;
  } catch {
    return null;
  }
}

for (let turn = 0; turn < Number(times); turn++) {
  await whileLocked(
    asWritten(folder),
    async () => {
      const other = inside();
      if (other !== null) appendFileSync(join(folder, 'overlaps'), `${process.pid} met ${other}\n`);
      writeFileSync(mark, String(process.pid));
      await setTimeout(Math.random() * 2);
      if (readFileSync(mark, 'utf8') !== String(process.pid))
        appendFileSync(join(folder, 'overlaps'), `${process.pid} was met\n`);
      rmSync(mark);
      appendFileSync(join(folder, 'turns'), '.');
    },
    { patience: 120_000 },
  );
}
