/** What is known of an address that the large view went to, and where nothing is served. */
import type { Lack } from '../../messages.ts';

export function LackShown({ lack: { asked, walk, why, meant, spots, moreSpots, commands } }: { lack: Lack }) {
  return (
    <section class="lack">
      <p>
        <b class="broken">A visitor gets nothing at {asked}</b>: {why}
      </p>
      {walk.length > 0 && <Walk steps={walk} />}
      {meant.length > 0 && <p>probably meant: {meant.map(({ path }) => path).join(', ')}</p>}
      {spots.map(({ file, line, column, written }) => (
        <p key={`${file} ${line} ${column}`}>
          {file} {line}:{column} <code>{written}</code>
        </p>
      ))}
      {moreSpots > 0 && <p class="soft">and {moreSpots} more spots</p>}
      {commands.map((command) => (
        <p key={command}>
          <code>{command}</code>
        </p>
      ))}
    </section>
  );
}

/** The way of an address, up to where it fails. */
export function Walk({ steps }: { steps: Lack['walk'] }) {
  return (
    <p class="walk">
      {steps.map(({ name, found }, index) => (
        <span key={index} class={found ? '' : 'broken'}>
          {index > 0 && ' ▸ '}
          {name}
        </span>
      ))}
    </p>
  );
}
