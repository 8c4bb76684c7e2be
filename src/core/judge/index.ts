/** The rules, by what they judge. */

import type { Reference } from '../read/reading.ts';
import { grades } from '../report.ts';
import type { Addressed } from '../resolve/resolver.ts';
import type { SiteView } from '../resolve/subject.ts';
import type {
  AnswerRule,
  ElementRule,
  FileRule,
  HostRule,
  NameRule,
  PageRule,
  PlacingRule,
  RefusalRule,
  RepeatRule,
  Rule,
  RuleFacts,
  SiteRule,
  SpotRule,
  WaitingRule,
} from './rule.ts';
import { absent } from './rules/absent.ts';
import { absentAnchor } from './rules/absent-anchor.ts';
import { altered } from './rules/altered.ts';
import { answersAnything } from './rules/answers-anything.ts';
import { anyCase } from './rules/any-case.ts';
import { anyDepth } from './rules/any-depth.ts';
import { backslash } from './rules/backslash.ts';
import { beforeItsElement } from './rules/before-its-element.ts';
import { beforeItsLibrary } from './rules/before-its-library.ts';
import { behindLogin } from './rules/behind-login.ts';
import { beyondSite } from './rules/beyond-site.ts';
import { blockingScript } from './rules/blocking-script.ts';
import { callsNothing } from './rules/calls-nothing.ts';
import { doesNotParse } from './rules/does-not-parse.ts';
import { elementLeftOut } from './rules/element-left-out.ts';
import { empty } from './rules/empty.ts';
import { fileName } from './rules/file-name.ts';
import { filler } from './rules/filler.ts';
import { fromRoot } from './rules/from-root.ts';
import { generatorSource } from './rules/generator-source.ts';
import { hostDependent } from './rules/host-dependent.ts';
import { inlineCode } from './rules/inline-code.ts';
import { insecure } from './rules/insecure.ts';
import { lacksCharset } from './rules/lacks-charset.ts';
import { lacksDescription } from './rules/lacks-description.ts';
import { lacksDoctype } from './rules/lacks-doctype.ts';
import { lacksEntry } from './rules/lacks-entry.ts';
import { lacksIndex } from './rules/lacks-index.ts';
import { lacksLanguage } from './rules/lacks-language.ts';
import { lacksViewport } from './rules/lacks-viewport.ts';
import { lateBase } from './rules/late-base.ts';
import { lateCharset } from './rules/late-charset.ts';
import { lateStylesheet } from './rules/late-stylesheet.ts';
import { leftOpen } from './rules/left-open.ts';
import { letterCase } from './rules/letter-case.ts';
import { libraryLeftOut } from './rules/library-left-out.ts';
import { localDisk } from './rules/local-disk.ts';
import { movedAway } from './rules/moved-away.ts';
import { needsEncoding } from './rules/needs-encoding.ts';
import { nobodyMakes } from './rules/nobody-makes.ts';
import { notPublished } from './rules/not-published.ts';
import { notServed } from './rules/not-served.ts';
import { nothingInIt } from './rules/nothing-in-it.ts';
import { oddOneOut } from './rules/odd-one-out.ts';
import { partDrift } from './rules/part-drift.ts';
import { placeholderTitle } from './rules/placeholder-title.ts';
import { sameDescription } from './rules/same-description.ts';
import { sameTitle } from './rules/same-title.ts';
import { sentOn } from './rules/sent-on.ts';
import { servedOtherwise } from './rules/served-otherwise.ts';
import { srcAndCode } from './rules/src-and-code.ts';
import { swallowed } from './rules/swallowed.ts';
import { thisMachine } from './rules/this-machine.ts';
import { twice } from './rules/twice.ts';
import { twinNames } from './rules/twin-names.ts';
import { twoNames } from './rules/two-names.ts';
import { unreached } from './rules/unreached.ts';
import { unsafeWay } from './rules/unsafe-way.ts';
import { unused } from './rules/unused.ts';
import { withoutEffect } from './rules/without-effect.ts';
import { wrongKind } from './rules/wrong-kind.ts';
import { wrongPlace } from './rules/wrong-place.ts';
import { wrongType } from './rules/wrong-type.ts';

/** Rules about where a reference leads and how it is written: the first one with something to say speaks for it. */
export const addressRules: readonly Rule[] = [
  beyondSite,
  localDisk,
  empty,
  lacksIndex,
  hostDependent,
  letterCase,
  absent,
  wrongKind,
  altered,
  thisMachine,
  insecure,
  backslash,
  needsEncoding,
  fromRoot,
];

/** What is said of a spot that is not there. */
export const spotRule: SpotRule = absentAnchor;

const concerns = addressRules.map((rule) => rule.concerns);
const isAskedAlways = concerns.includes(undefined);
const ofAbsent = concerns.some((one) => one?.absent);
const ofElsewhere = concerns.flatMap((one) => one?.elsewhere ?? []);
const ofUnplain = concerns.flatMap((one) => one?.unplain ?? []);
const ofFound = concerns.flatMap((one) => one?.found ?? []);
const ofLoading = concerns.flatMap((one) => one?.loading ?? []);

/** Whether any rule about addresses is to be asked; made of what the rules say of themselves. */
export const concerned = {
  /** Of an address without its fragment, whoever has it. */
  address(address: Addressed): boolean {
    if (isAskedAlways) return true;
    if (address.elsewhere) return ofElsewhere.some((pattern) => pattern.test(address.address));
    if (address.found === null) return ofAbsent;
    if (!address.isPlain && ofUnplain.some((pattern) => pattern.test(address.address))) return true;
    for (const isConcerned of ofFound) if (isConcerned(address)) return true;
    return false;
  },
  /** Of a reference that loads a file of the site. */
  loading(reference: Reference, found: string, site: SiteView): boolean {
    for (const isConcerned of ofLoading) if (isConcerned(reference, found, site)) return true;
    return false;
  },
  /** Where nothing is written at all. */
  nothing: isAskedAlways || concerns.some((one) => one?.nothing),
};

/** Rules about where in its page a reference stands: each speaks for itself. */
export const placingRules: readonly PlacingRule[] = [lateStylesheet];

/** What is said of scripts that a page waits for. */
export const waitingRule: WaitingRule = blockingScript;

/** Rules about what one document loads again. */
export const repeatRules: readonly RepeatRule[] = [twice];

/** Rules about what other hosts say: each speaks for itself. */
export const answerRules: readonly AnswerRule[] = [notServed, altered, movedAway];

/** What is said of a script that a browser refuses for how a page loads it. */
export const refusalRule: RefusalRule = doesNotParse;

/** Rules about names that scripts need: the first one with something to say speaks for it. */
export const nameRules: readonly NameRule[] = [
  doesNotParse,
  beforeItsLibrary,
  libraryLeftOut,
  callsNothing,
  nobodyMakes,
];

/** Rules about elements that scripts use: the first one with something to say speaks for it. */
export const elementRules: readonly ElementRule[] = [beforeItsElement, elementLeftOut];

export const fileRules: readonly FileRule[] = [swallowed, withoutEffect, doesNotParse, nothingInIt];

export const pageRules: readonly PageRule[] = [
  placeholderTitle,
  lacksDescription,
  lacksLanguage,
  lacksViewport,
  lacksCharset,
  lacksDoctype,
  lateCharset,
  lateBase,
  srcAndCode,
  inlineCode,
  partDrift,
  anyDepth,
];

export const siteRules: readonly SiteRule[] = [
  generatorSource,
  twinNames,
  wrongPlace,
  sameTitle,
  sameDescription,
  fileName,
  lacksEntry,
  unused,
  unreached,
  oddOneOut,
  filler,
];

/** Rules about what the site's own host says: of a file the first with something to say speaks. */
export const hostRules: readonly HostRule[] = [
  behindLogin,
  notPublished,
  servedOtherwise,
  wrongType,
  sentOn,
  leftOpen,
  answersAnything,
  unsafeWay,
  twoNames,
  anyCase,
];

/** Every rule there is, the worst grade first. */
export const allRules: readonly RuleFacts[] = [
  ...new Set<RuleFacts>([
    ...addressRules,
    spotRule,
    ...placingRules,
    waitingRule,
    ...repeatRules,
    ...answerRules,
    ...hostRules,
    ...nameRules,
    ...elementRules,
    ...fileRules,
    ...pageRules,
    ...siteRules,
  ]),
].sort((a, b) => grades.indexOf(a.grade) - grades.indexOf(b.grade) || (a.name < b.name ? -1 : 1));

const byName: ReadonlyMap<string, RuleFacts> = new Map(allRules.map((rule) => [rule.name, rule]));

/** The rule of that name; undefined where there is none. */
export function ruleNamed(name: string): RuleFacts | undefined {
  return byName.get(name);
}
