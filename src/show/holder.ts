/** The words for what holds a reference: `img src`, `srcdoc a href`, `url()`, `manifest icons.src`, `file`. */
import type { Finding } from '../core/report.ts';

export function inWords(holder: Finding['holder']): string {
  if (holder === null) return 'file';
  const { element, name, within } = holder;
  return [within === 'srcdoc' ? within : '', element, name].filter((word) => word !== '').join(' ');
}
