/** The page in frames of several widths: one large, the others beneath it, each of them live. */
import { useEffect, useLayoutEffect, useRef, useState } from 'preact/hooks';
import type { Proof } from '../../messages.ts';
import { unescaped } from '../addresses.ts';

/** What a page needs to work, and nothing that reaches out of its frame. */
const ALLOWED =
  'allow-scripts allow-same-origin allow-forms allow-modals allow-popups allow-popups-to-escape-sandbox allow-downloads allow-pointer-lock allow-presentation';
/** Heights of the small views, and how wide they are at most (CSS pixels). */
const SMALL_HEIGHT = 150;
const SMALL_WIDTH = 216;
const LEAST_SCALE = 0.2;
/** Narrowest and widest of one's own. */
const NARROWEST = 200;
const WIDEST = 4000;

/** Decks whose parts stand below each other, as the stylesheet says. */
const NARROW = matchMedia('(max-width: 56rem)');

interface ViewsProps {
  readonly address: string | null;
  /** The address on the site's host. */
  readonly at: string | null;
  readonly widths: readonly number[];
  readonly main: number;
  readonly own: number | null;
  readonly isDark: boolean;
  readonly proofs: ReadonlyMap<number, Proof>;
  readonly frames: Map<number, HTMLIFrameElement>;
  choose(width: number): void;
  choosesOwn(width: number | null): void;
}

export function Views({
  address,
  at,
  widths,
  main,
  own,
  isDark,
  proofs,
  frames,
  choose,
  choosesOwn,
}: ViewsProps) {
  const place = useRef<HTMLElement>(null);
  const [room, setRoom] = useState({ width: 800, height: 600 });
  useLayoutEffect(() => {
    const element = place.current;
    if (element === null) return;
    // Where the deck scrolls as a whole, the views take the height that they need.
    const measure = () =>
      setRoom({
        width: element.clientWidth,
        height: NARROW.matches ? innerHeight : element.clientHeight,
      });
    const watcher = new ResizeObserver(measure);
    watcher.observe(element);
    measure();
    return () => watcher.disconnect();
  }, []);
  return (
    <section class="views" ref={place} aria-label="The page at several widths">
      {widths.map((width, index) => (
        <View
          key={width}
          {...{ width, address, at, isDark, room, frames }}
          number={index + 1}
          isMain={width === main}
          proof={proofs.get(width) ?? null}
          choose={() => choose(width)}
        />
      ))}
      <form
        class="own"
        onSubmit={(event) => {
          event.preventDefault();
          const given = Number(new FormData(event.currentTarget).get('width'));
          choosesOwn(given >= NARROWEST && given <= WIDEST ? Math.round(given) : null);
        }}
      >
        <label>
          Your own width
          <input
            name="width"
            type="number"
            min={NARROWEST}
            max={WIDEST}
            placeholder="1024"
            value={own ?? ''}
          />
        </label>
        <button type="submit">Show</button>
      </form>
    </section>
  );
}

interface ViewProps {
  readonly width: number;
  readonly number: number;
  readonly address: string | null;
  readonly at: string | null;
  readonly isMain: boolean;
  readonly isDark: boolean;
  readonly proof: Proof | null;
  readonly room: { readonly width: number; readonly height: number };
  readonly frames: Map<number, HTMLIFrameElement>;
  choose(): void;
}

function View({ width, number, address, at, isMain, isDark, proof, room, frames, choose }: ViewProps) {
  const frame = useRef<HTMLIFrameElement>(null);
  useEffect(() => {
    const element = frame.current;
    if (element === null) return;
    frames.set(width, element);
    return () => void frames.delete(width);
  }, [width, frames]);
  // A view that went on by a link of its own is where it should be already.
  const place = useRef<string | null>(null);
  const reported = proof?.path ?? null;
  useEffect(() => {
    place.current = reported === null ? null : unescaped(reported);
  }, [reported]);
  useEffect(() => {
    const element = frame.current;
    if (element === null || address === null || at === null || place.current === unescaped(at)) return;
    place.current = unescaped(at);
    element.src = address;
  }, [address, at]);
  const scale = isMain
    ? Math.min(1, room.width / width)
    : Math.min(SMALL_WIDTH, Math.max(width * LEAST_SCALE, 110)) / width;
  const height = isMain ? Math.max(320, room.height - SMALL_HEIGHT - 96) : SMALL_HEIGHT;
  const out = proof?.sticksOut[0];
  const size = { width: `${Math.round(width * scale)}px`, height: `${Math.round(height)}px` };
  return (
    <figure class={isMain ? 'view main' : 'view'}>
      <figcaption>
        <button type="button" class="width" aria-pressed={isMain} onClick={choose} title={String(number)}>
          {width}
        </button>
        {isMain && <span class="soft">{Math.round(scale * 100)} %</span>}
        {out !== undefined && (
          <span class="misplaced" title={`${out.element} reaches ${out.by} px over the edge`}>
            ↔ {out.by} px
          </span>
        )}
      </figcaption>
      <div class="glass" style={size}>
        <iframe
          ref={frame}
          name={`cravel-${width}`}
          title={`${at ?? 'no page'} at ${width} pixels`}
          sandbox={ALLOWED}
          tabIndex={isMain ? 0 : -1}
          style={{
            width: `${width}px`,
            height: `${Math.round(height / scale)}px`,
            transform: `scale(${scale})`,
            colorScheme: isDark ? 'dark' : 'light',
          }}
        />
        {!isMain && (
          <button
            type="button"
            class="cover"
            onClick={choose}
            aria-label={`Make ${width} pixels the large view`}
          />
        )}
      </div>
    </figure>
  );
}
