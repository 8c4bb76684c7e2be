/** Finds the sample texts of the starter that a project was laid out from. */
import { CravelError } from '../core/errors.ts';
import { valuesOf } from '../core/starter/render.ts';
import { samplesOf } from '../core/starter/samples.ts';
import { isBuiltIn, loadStarter } from './starters.ts';

/** None where the starter is gone, or no longer what it was. */
export function samplesOfProject(name: string, blanks: Readonly<Record<string, string>>): readonly string[] {
  if (!isBuiltIn(name)) return [];
  try {
    const starter = loadStarter(name);
    return samplesOf(starter, valuesOf(starter, blanks));
  } catch (error) {
    if (error instanceof CravelError) return [];
    throw error;
  }
}
