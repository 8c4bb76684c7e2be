/** The page for an address where nothing is served, in place of a host's bare answer. */
import { forMarkup } from '../show/escape.ts';
import style from '../show/html/style.css';
import { pageHead } from '../show/page-head.ts';
import { count } from '../show/paint.ts';
import { type Lack, OWN } from './messages.ts';

export function helpPage({ asked, walk, why, meant, spots, moreSpots, commands }: Lack): string {
  const steps = walk.map(({ name, found }) =>
    found ? forMarkup(name) : `<span class="fails">${forMarkup(name)}</span>`,
  );
  const sections = [
    steps.length > 0 ? `<p>${steps.join(' ▸ ')}</p>` : '',
    `<p>${forMarkup(why)}.</p>`,
    listOf(
      'Probably meant',
      meant.map(({ path, address }) => `<a href="${forMarkup(address)}">${forMarkup(path)}</a>`),
    ),
    spots.length === 0 && walk.length > 0
      ? '<p>Nothing in the site refers to it.</p>'
      : listOf('Who refers to it', [
          ...spots.map(
            ({ file, line, column, written, mend }) =>
              `<b>${forMarkup(file)}</b> <span class="soft">${line}:${column}</span> <code>${forMarkup(written)}</code>${mend === null ? '' : ` <span class="soft">${mend.sure ? 'meant' : 'maybe'}</span> <code>${forMarkup(mend.text)}</code>`}`,
          ),
          ...(moreSpots > 0 ? [`<span class="soft">and ${count(moreSpots, 'more spot')}</span>`] : []),
        ]),
    listOf(
      'What mends it',
      commands.map((command) => `<code>${forMarkup(command)}</code>`),
    ),
  ];
  const title = `Not there: ${asked}`;
  const styles = [style, 'h2 { margin-top: 1.5rem }\n'];
  return `${pageHead({ title, styles, more: `<script src="${OWN}/page.js"></script>` })}<header>
<h1>A visitor gets nothing here</h1>
<p><code>${forMarkup(asked)}</code></p>
</header>
<main>
${sections.filter((one) => one !== '').join('\n')}
<p class="soft">This page is the preview's, not the site's: a host answers with its own. Once something is there, it shows.</p>
</main>
</body>
</html>
`;
}

function listOf(title: string, items: readonly string[]): string {
  if (items.length === 0) return '';
  return `<h2>${title}</h2>\n<ul class="spots">${items.map((item) => `<li>${item}</li>`).join('\n')}</ul>`;
}
