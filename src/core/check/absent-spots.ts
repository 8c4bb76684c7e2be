/** References to spots of pages. */

import { type Draft, draftOf } from '../judge/drafts.ts';
import { spotRule } from '../judge/index.ts';
import { detachReference } from '../read/detach.ts';
import type { Reference } from '../read/reading.ts';
import { resolveIn } from '../resolve/published.ts';
import type { SiteView } from '../resolve/subject.ts';

/** What is to be said of a reference to a spot. */
export function draftOfSpot(
  file: string,
  base: string | null,
  reference: Reference,
  site: SiteView,
): Draft | null {
  const kept = detachReference(reference);
  const target = resolveIn(kept.written, base, site.published);
  const subject = { file, base, reference: kept, target, found: null, site };
  const verdict = spotRule.judge(subject);
  return verdict === null ? null : draftOf(spotRule, subject, verdict);
}
