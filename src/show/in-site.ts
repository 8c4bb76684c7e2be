/** Names of files where several sites are told of. */
import type { SiteReport } from '../core/report.ts';

/** A file with the folder of its site in front. */
export function inSite({ folder }: Pick<SiteReport, 'folder'>, file: string): string {
  return folder === '.' ? file : `${folder.replace(/\/$/, '')}/${file}`;
}
