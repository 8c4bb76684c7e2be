/** `cravel settings`: the settings in force, and where each comes from. */

import { stringify } from 'yaml';
import { failing } from '../core/report.ts';
import { SETTINGS_FILE, Settings } from '../core/settings/settings.ts';
import { below } from '../disk/disk-path.ts';
import { openProject } from '../disk/project.ts';
import { statOrNull } from '../disk/stat.ts';
import { asJson, visible } from '../show/escape.ts';
import { paintFor } from '../show/paint.ts';
import { settings as declaration } from './declarations.ts';
import { checkOptions } from './options.ts';
import type { Output } from './output.ts';
import { workPlace } from './project-change.ts';
import { tellUnfinished } from './unfinished.ts';

interface InForce {
  readonly value: unknown;
  readonly from: string;
}

export async function settings(raw: object, output: Output): Promise<number> {
  const { out, stdout, env } = output;
  const options = checkOptions(declaration, raw);
  const { root } = workPlace(options.dir, output);
  const project = await openProject(root);
  const inForce = settingsInForce(
    project.settings,
    project.places,
    statOrNull(below(root, SETTINGS_FILE)) !== null,
  );
  const code = (await tellUnfinished(root, output)) ? 2 : 0;
  if (options.as === 'json') {
    out(`${asJson(inForce, 2)}\n`);
    return code;
  }
  const paint = paintFor(stdout, env);
  for (const [key, { value, from }] of Object.entries(inForce)) {
    const text = stringify({ [key]: value }, { lineWidth: 0 }).trimEnd();
    out(`${paint.dim(`# ${from}`)}\n${text.split('\n').map(visible).join('\n')}\n`);
  }
  return code;
}

function settingsInForce(own: Settings, places: object, hasFile: boolean): Record<string, InForce> {
  const defaults = new Settings();
  const all: Record<string, InForce> = {};
  const keys = [
    'site',
    'entry',
    'published-at',
    'places',
    'scripts-go',
    'libraries',
    'leave-out',
    'fail-on',
    'grades',
    'accept',
    'undo-megabytes',
    'starter',
    'blanks',
  ] as const;
  for (const key of keys) {
    const value = own[key];
    const isDefault = JSON.stringify(value) === JSON.stringify(defaults[key]);
    if (key === 'places' && value === undefined)
      all[key] = { value: places, from: 'from the names of the folders' };
    else if (key === 'fail-on' && value === undefined) all[key] = { value: failing, from: 'unless said' };
    else if (value !== undefined)
      all[key] = { value, from: isDefault || !hasFile ? 'unless said' : SETTINGS_FILE };
  }
  return all;
}
