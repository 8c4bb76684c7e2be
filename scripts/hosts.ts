/**
 * `npm run hosts`: packs the demo for a sub-path, has real hosts serve it on loopback, and visits them: nothing may be told.
 * Then one file goes, another one changes, and a third comes that should not be there: each has to be told. Hosts that are not
 * on the machine are passed over (Debian: apt-get install nginx-light apache2).
 */
import { type ChildProcess, execFileSync, spawn, spawnSync } from 'node:child_process';
import {
  chmodSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';

const project = join(import.meta.dirname, '..');
const program = join(project, 'dist/cravel.js');
const recipes = readFileSync(join(project, 'docs/recipes.md'), 'utf8');

interface Host {
  readonly name: string;
  readonly program: string;
  /** The kind of the block in the recipes that has its settings. */
  readonly block: string;
  readonly args: (settings: string, folder: string) => readonly string[];
}

const hosts: readonly Host[] = [
  {
    name: 'nginx',
    program: '/usr/sbin/nginx',
    block: 'nginx',
    args: (settings, folder) => [
      '-p',
      folder,
      '-c',
      settings,
      '-g',
      'daemon off;',
      '-e',
      join(folder, 'error.log'),
    ],
  },
  {
    name: 'apache2',
    program: '/usr/sbin/apache2',
    block: 'apache',
    args: (settings) => ['-D', 'FOREGROUND', '-f', settings],
  },
];

const folder = mkdtempSync(join(tmpdir(), 'cravel-hosts-'));
// Hosts serve by an account of their own.
chmodSync(folder, 0o755);
let port = 4710;
try {
  run(folder, ['demo', 'demo']);
  for (const host of hosts) {
    if (!existsSync(host.program)) {
      console.log(`${host.name}: not on this machine`);
      continue;
    }
    await hold(host, ++port);
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}

async function hold(host: Host, own: number): Promise<void> {
  const address = `http://127.0.0.1:${own}/ferry/`;
  const site = join(folder, 'demo/gullhaven-ferry');
  const root = join(folder, host.name);
  const served = join(root, 'ferry');
  mkdirSync(root);
  run(site, [
    'pack',
    '--to',
    join(folder, `packed-${host.name}`),
    '--at',
    address,
    '--shrink',
    '--named-by-content',
  ]);
  cpSync(join(folder, `packed-${host.name}`), served, { recursive: true });
  const settings = join(folder, `${host.name}.conf`);
  const [, written = ''] = new RegExp(`^\`\`\`${host.block}\\n([\\s\\S]*?)^\`\`\``, 'm').exec(recipes) ?? [];
  writeFileSync(
    settings,
    written.replaceAll('8080', String(own)).replaceAll('/srv/www', root).replaceAll('/var/run', folder),
  );
  const started: ChildProcess = spawn(host.program, host.args(settings, folder), {
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  try {
    await setTimeout(1500);
    told(host.name, 'as it was packed', visit(site, address), []);
    rmSync(join(served, 'fares.html'));
    writeFileSync(
      join(served, 'timetable.html'),
      readFileSync(join(served, 'timetable.html'), 'utf8').replace('</body>', '<script>x()</script></body>'),
    );
    writeFileSync(join(served, 'cravel.yaml'), 'site: .\n');
    told(host.name, 'with three mistakes', visit(site, address), [
      'not-published fares.html',
      'served-otherwise timetable.html',
      'left-open cravel.yaml',
    ]);
  } finally {
    started.kill();
    await setTimeout(300);
  }
}

function visit(site: string, address: string): string[] {
  const { stdout } = spawnSync(process.execPath, [program, 'visit', address, '--as', 'json'], {
    cwd: site,
    encoding: 'utf8',
  });
  const { findings } = JSON.parse(stdout) as {
    findings: readonly { rule: string; file: string; message: string }[];
  };
  return findings.map(({ rule, file }) => `${rule} ${file}`);
}

function told(host: string, what: string, found: readonly string[], expected: readonly string[]): void {
  const isSame = JSON.stringify([...found].sort()) === JSON.stringify([...expected].sort());
  console.log(
    `${host}, ${what}: ${found.length === 0 ? 'nothing is told' : found.join(', ')}${isSame ? '' : `; expected: ${expected.join(', ') || 'nothing'}`}`,
  );
  if (!isSame) process.exitCode = 1;
}

function run(cwd: string, args: readonly string[]): void {
  execFileSync(process.execPath, [program, ...args], { cwd, stdio: 'ignore' });
}
