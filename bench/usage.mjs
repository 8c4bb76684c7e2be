// Loaded before a program that is measured: says at its end what it took.
import { writeSync } from 'node:fs';

process.on('exit', () => {
  const { userCPUTime, systemCPUTime, maxRSS } = process.resourceUsage();
  writeSync(2, `\ntook ${(userCPUTime + systemCPUTime) / 1e6} ${maxRSS / 1024}\n`);
});
