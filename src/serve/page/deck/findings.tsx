/** What the check finds on the page, each with where it goes wrong, what was meant, and a button for a sure mend. */
import { grades } from '../../../core/report.ts';
import type { FindingShown, PageAbout } from '../../messages.ts';
import { Walk } from './lack.tsx';

interface FindingsProps {
  readonly about: PageAbout;
  mends(keys: readonly string[]): void;
}

export function Findings({ about, mends }: FindingsProps) {
  const { findings } = about;
  if (findings.length === 0) return <p>Nothing is found on this page.</p>;
  const sure = findings.filter(isSure);
  const sorted = findings.toSorted((one, other) => grades.indexOf(one.grade) - grades.indexOf(other.grade));
  return (
    <>
      {sure.length > 1 && (
        <button type="button" class="act" onClick={() => mends(sure.map(({ key }) => key))}>
          Mend all {sure.length} that are sure
        </button>
      )}
      <ul class="findings">
        {sorted.map((finding) => (
          <Item key={finding.key} finding={finding} mend={() => mends([finding.key])} />
        ))}
      </ul>
    </>
  );
}

function isSure({ mends }: FindingShown): boolean {
  return mends.some(({ sure }) => sure);
}

function Item({ finding, mend }: { finding: FindingShown; mend(): void }) {
  const { rule, grade, file, line, column, written, message, walk, order, mends } = finding;
  return (
    <li>
      <div>
        <b class={grade}>
          {grade} · {rule}
        </b>{' '}
        <span class="soft">
          {file} {line}:{column}
        </span>
      </div>
      <p>{message}</p>
      {written !== '' && <code class="written">{written}</code>}
      {walk.length > 0 && <Walk steps={walk} />}
      {order !== null && (
        <p class="walk">
          {order.is.join(' ▸ ')}
          <br />
          <span class="soft">right</span> {order.should.join(' ▸ ')}
        </p>
      )}
      {mends.map(({ sure, text }) => (
        <p key={text}>
          <span class="soft">{sure ? 'meant' : 'maybe'}</span> <code>{text}</code>
        </p>
      ))}
      {isSure(finding) && (
        <button type="button" class="act" onClick={mend}>
          Mend
        </button>
      )}
    </li>
  );
}
