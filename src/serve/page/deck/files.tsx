/** The files of the page in load order, each with the proof that it arrived and took effect. */
import type { ComponentChildren } from 'preact';
import { useEffect, useRef, useState } from 'preact/hooks';
import type { FileLine, PageAbout, Proof } from '../../messages.ts';
import { pathIn, plain } from '../addresses.ts';
import { pagesThatLoad, siteOrigin } from './link.ts';
import { type Probing, probe } from './probe.ts';

/** How a file did: it did something, nothing, or it is not there. */
type Outcome = 'works' | 'idle' | 'fails' | 'unknown';

const words: Readonly<Record<Outcome, string>> = {
  works: 'took effect',
  idle: 'no effect here',
  fails: 'failed',
  unknown: 'not asked for',
};
const marks: Readonly<Record<Outcome, string>> = { works: '●', idle: '○', fails: '✕', unknown: '·' };

/** On request: the rules of a stylesheet that match nothing on any page. */
function IdleRules({ path, address }: { path: string; address: string }) {
  const [so, setSo] = useState<Probing | null>(null);
  const goes = useRef(false);
  const end = () => {
    goes.current = false;
  };
  useEffect(() => end, [path]);
  const isUnderWay = so !== null && so.done < so.total;
  const start = async () => {
    const pages = await pagesThatLoad(path);
    goes.current = true;
    setSo({ idle: [], done: 0, total: pages.length, silent: 0 });
    await probe(address, pages, (news) => {
      if (goes.current) setSo(news);
      return goes.current;
    });
  };
  const stop = () => {
    end();
    setSo(null);
  };
  return (
    <div class="effect">
      {so === null && (
        <button type="button" class="ask" onClick={start}>
          Which rules match nothing anywhere?
        </button>
      )}
      {isUnderWay && (
        <p>
          {so.done} of {so.total} pages{' '}
          <button type="button" class="ask" onClick={stop}>
            Stop
          </button>
        </p>
      )}
      {so !== null && !isUnderWay && (
        <>
          <p role="status">
            {so.idle.length === 0 ? 'Every rule matches something' : `${so.idle.length} match nothing`} on the{' '}
            {so.total} {so.total === 1 ? 'page' : 'pages'} that load it
            {so.silent > 0 ? `; ${so.silent} of them did not answer` : ''}.
          </p>
          {so.idle.map((selector) => (
            <div key={selector}>
              <code>{selector}</code>
            </div>
          ))}
        </>
      )}
    </div>
  );
}

interface Told {
  readonly outcome: Outcome;
  readonly text: ComponentChildren;
}

export function Files({ about, proof }: { about: PageAbout; proof: Proof | null }) {
  const isOf = proof !== null;
  const known = new Set(about.files.map(addressOf));
  const extra = isOf
    ? proof.loaded.filter(
        ({ address, isOwn }) => isOwn && !known.has(plain(address)) && pathIn(address) !== proof.path,
      )
    : [];
  return (
    <>
      <p class="soft">In the order in which a browser comes to ask for them.</p>
      <ol class="files">
        {about.files.map((file) => (
          <FileItem key={`${file.written}\n${file.path}`} {...{ file, proof }} />
        ))}
      </ol>
      {extra.length > 0 && (
        <>
          <h2>Asked for besides</h2>
          <ul class="plain">
            {extra.map(({ address, status, bytes }) => (
              <li key={address}>
                <b class={status >= 400 ? 'broken' : 'works'}>{status >= 400 ? marks.fails : marks.works}</b>{' '}
                {pathIn(address)} <span class="soft">{status >= 400 ? status : size(bytes)}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {isOf && proof.styles.some(({ address }) => address === null) && (
        <>
          <h2>Styles in the page</h2>
          <ul class="plain">
            {proof.styles
              .filter(({ address }) => address === null)
              .map(({ rules, matching }, index) => (
                <li key={index}>{ofRules(matching, rules)}</li>
              ))}
          </ul>
        </>
      )}
      {isOf && proof.fonts.length > 0 && (
        <>
          <h2>Fonts</h2>
          <ul class="plain">
            {proof.fonts.map(({ family, style, status }, index) => (
              <li key={index}>
                <b class={status === 'error' ? 'broken' : status === 'loaded' ? 'works' : 'soft'}>
                  {status === 'error' ? marks.fails : status === 'loaded' ? marks.works : marks.idle}
                </b>{' '}
                {family} {style} <span class="soft">{fontWords[status]}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

const fontWords = {
  loaded: 'used',
  unloaded: 'declared, and nothing here is set in it',
  loading: 'on its way',
  error: 'did not arrive, or is no font',
} as const;

function FileItem({ file, proof }: { file: FileLine; proof: Proof | null }) {
  const { path, written, depth, kind, way } = file;
  const { outcome, text } = told(file, proof);
  return (
    <li style={{ paddingInlineStart: `${Math.min(depth, 4) * 0.9}rem` }}>
      <b class={outcome} title={words[outcome]}>
        {marks[outcome]}
      </b>{' '}
      <span class="name">{path ?? written}</span>{' '}
      <span class="soft">
        {kind}, {way}
      </span>
      <div class="effect">
        <span class="unseen">{words[outcome]}: </span>
        {text}
      </div>
      {kind === 'stylesheet' && path !== null && <IdleRules path={path} address={addressOf(file)} />}
    </li>
  );
}

function told(file: FileLine, proof: Proof | null): Told {
  if (proof === null) return { outcome: 'unknown', text: 'The page has not told anything yet.' };
  if (file.found === false) return { outcome: 'fails', text: 'not there' };
  const own = addressOf(file);
  const isThis = (address: string | null) => address !== null && plain(address) === own;
  const arrival = proof.loaded.find(({ address }) => isThis(address));
  // What several frames share is counted for one of them alone.
  const came = arrival === undefined ? '' : `${size(file.bytes ?? arrival.bytes)}, ${arrival.time} ms`;
  const effect = effectOf(file, proof, isThis);
  if (arrival !== undefined && arrival.status >= 400) return { outcome: 'fails', text: `${arrival.status}` };
  if (effect !== null)
    return { outcome: effect.outcome, text: [came, effect.text].filter((one) => one !== '').join(' · ') };
  if (arrival === undefined) return { outcome: 'unknown', text: 'not asked for as it stands' };
  return { outcome: 'works', text: came };
}

/** What the browser asks for. */
function addressOf({ address, written, namedBy }: FileLine): string {
  return plain(address ?? written, siteOrigin + namedBy);
}

function effectOf(
  file: FileLine,
  proof: Proof,
  isThis: (address: string | null) => boolean,
): { readonly outcome: Outcome; readonly text: string } | null {
  const style = proof.styles.find(({ address }) => isThis(address));
  if (style !== undefined) {
    if (style.isIdle) return { outcome: 'idle', text: 'its media do not hold here' };
    if (style.rules === null) return { outcome: 'works', text: 'its rules are kept from the page' };
    return { outcome: style.matching > 0 ? 'works' : 'idle', text: ofRules(style.matching, style.rules) };
  }
  const script = proof.scripts.find(({ address }) => isThis(address));
  if (script !== undefined) {
    const all = [...new Set([...script.names, ...file.makes])];
    const made =
      all.length > 0 ? `makes ${all.slice(0, 8).join(', ')}${all.length > 8 ? ' and more' : ''}` : '';
    if (script.outcome === 'ran')
      return { outcome: 'works', text: ['ran', made].filter((one) => one !== '').join(', ') };
    const why = proof.said.find(({ kind, address }) => kind === 'threw' && isThis(address));
    const text =
      script.outcome === 'threw'
        ? `threw: ${why?.text ?? ''}${why?.line ? ` (line ${why.line})` : ''}`
        : 'did not arrive';
    return { outcome: 'fails', text };
  }
  const image = proof.images.find(({ address }) => isThis(address));
  if (image !== undefined) {
    if (!image.isThere) return { outcome: 'fails', text: 'what came is no image' };
    const [shownWidth, shownHeight] = image.shown;
    const text = `${image.natural.join(' × ')}, shown ${shownWidth} × ${shownHeight}`;
    return { outcome: shownWidth > 0 && shownHeight > 0 ? 'works' : 'idle', text };
  }
  return null;
}

function ofRules(matching: number, rules: number | null): string {
  return `${matching} of ${rules ?? '?'} ${rules === 1 ? 'rule' : 'rules'} match here`;
}

function size(bytes: number): string {
  return bytes < 1000
    ? `${bytes} B`
    : bytes < 1_000_000
      ? `${(bytes / 1000).toFixed(1)} kB`
      : `${(bytes / 1_000_000).toFixed(1)} MB`;
}
