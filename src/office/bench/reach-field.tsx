import { useState } from 'react';
import type { Reach } from '../../core/placement/reach';
import type { BenchView, PlacedView } from '../../services/publishing/bench';
import { reachField as say } from '../words/bench';

interface Props {
  readonly placed: PlacedView;
  readonly view: BenchView;
  readonly pages: readonly { readonly path: string; readonly name: string }[];
  readonly onChange: (reach: Reach) => void;
}

const kindWords: Readonly<Record<string, string>> = {
  front: say.frontPages,
  list: say.listsOfPosts,
  post: say.posts,
  contact: say.contactPages,
  gallery: say.galleries,
  legal: say.legalPages,
  other: say.otherPages,
  frames: say.framePages,
};

/** The pages a widget appears on, with their count; exceptions where it reaches many. */
export function ReachField({ placed, view, pages, onChange }: Props) {
  const { reach } = placed;
  const { page, sections } = view;
  const [choosing, setChoosing] = useState(reach.to === 'pages');
  const section = sections.find((s) => s.id === page.section);
  const except = 'except' in reach ? reach.except : [];
  type Option = readonly [Reach['to'], string, Reach];
  const bySection: Option[] =
    section && section.pages > 1
      ? [['section', say.allOf(section.name), { to: 'section', section: section.id, except: [] }]]
      : [];
  const options: Option[] = [
    ['page', say.thisPage, { to: 'page', page: page.path }],
    ['every', say.everyPage, { to: 'every', except: [] }],
    ...bySection,
    ['kind', kindWords[page.kind] ?? page.kind, { to: 'kind', kind: page.kind as 'post', except: [] }],
    ['chrome', say.pagesLikeThis, { to: 'chrome', like: page.path, except: [] }],
  ];
  const choose = (to: Reach) => {
    setChoosing(false);
    onChange(to);
  };
  return (
    <div className="f">
      <span className="lab">
        {say.appearsOn} <em>{say.onOfPages(placed.pages, pages.length)}</em>
      </span>
      <div className="chips">
        {options.map(([to, words, value]) => (
          <button
            key={to}
            type="button"
            aria-pressed={reach.to === to && !choosing}
            title={words}
            onClick={() => choose(value)}
          >
            {words}
          </button>
        ))}
        <button type="button" aria-pressed={choosing} onClick={() => setChoosing(true)}>
          {say.pages}
        </button>
      </div>
      {choosing && (
        <PageTicks
          pages={pages}
          chosen={chosenOf(placed, pages)}
          onChosen={(list) => list.length > 0 && onChange({ to: 'pages', pages: list })}
        />
      )}
      {!choosing && 'except' in reach && reach.to !== 'kind' && (
        <details className="mt-1">
          <summary className="note">{except.length ? say.butNotOn(except.length) : say.butNotOn2}</summary>
          <PageTicks
            pages={pages}
            chosen={except}
            onChosen={(list) => onChange({ ...reach, except: list })}
          />
        </details>
      )}
    </div>
  );
}

function chosenOf({ reach }: PlacedView, pages: Props['pages']): string[] {
  if (reach.to === 'pages') return reach.pages;
  if (reach.to === 'page') return [reach.page];
  if (reach.to === 'every') return pages.map((p) => p.path).filter((p) => !reach.except.includes(p));
  return [];
}

/** More pages than fit are found by typing. */
const SHOWN = 60;

function PageTicks({
  pages,
  chosen,
  onChosen,
}: {
  pages: Props['pages'];
  chosen: readonly string[];
  onChosen: (list: string[]) => void;
}) {
  const [find, setFind] = useState('');
  const wanted = find.trim().toLowerCase();
  const hits = pages.filter(
    (p) => !wanted || p.name.toLowerCase().includes(wanted) || p.path.toLowerCase().includes(wanted),
  );
  return (
    <>
      {pages.length > 12 && (
        <div className="in mt-1">
          <input
            aria-label={say.findAPage}
            placeholder={say.findAPage}
            value={find}
            onChange={(e) => setFind(e.target.value)}
          />
        </div>
      )}
      <div className="pagelist">
        {hits.slice(0, SHOWN).map((p) => (
          <label key={p.path}>
            <input
              type="checkbox"
              checked={chosen.includes(p.path)}
              onChange={(e) =>
                onChosen(e.target.checked ? [...chosen, p.path] : chosen.filter((x) => x !== p.path))
              }
            />
            {p.name}
          </label>
        ))}
        {hits.length > SHOWN && <p className="note">{say.moreTypeToFindThem(hits.length - SHOWN)}</p>}
      </div>
    </>
  );
}
