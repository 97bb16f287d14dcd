import { Plus, X } from 'lucide-react';
import { lazy, Suspense } from 'react';
import { moreFields as say } from '../words/goods';
import { Part, Wrong } from './fields';
import type { Draft } from './form';
import type { Change } from './use-draft';

const RichEditor = lazy(() => import('./rich-editor'));

type Section = Draft['sections'][number];

/** Sections that a product's page may have; chosen by hand. */
const MOST_SECTIONS = 8;

/** Sections of a product's page that fold: care, sizes, delivery. */
export function SectionsField({
  draft,
  change,
  error,
}: {
  draft: Draft;
  change: Change;
  error: string | undefined;
}) {
  const { sections } = draft;
  const keep = (to: readonly Section[]) => change('sections', (d) => ({ ...d, sections: [...to] }));
  const usual = [say.care, say.sizes, say.delivery, say.returns];
  return (
    <Part title={say.sections} note={sections.map((s) => s.title).join(', ')} open={!!error}>
      {sections.map((section, n) => (
        <SectionRow
          // biome-ignore lint/suspicious/noArrayIndexKey: sections have no identity but their place
          key={n}
          section={section}
          put={(part) => keep(sections.map((x, i) => (i === n ? { ...x, ...part } : x)))}
          onRemove={() => keep(sections.filter((_, i) => i !== n))}
        />
      ))}
      <Wrong text={error} />
      {sections.length < MOST_SECTIONS && (
        <div className="flex flex-wrap gap-1">
          {usual
            .filter((t) => !sections.some((s) => s.title === t))
            .map((title) => (
              <button
                key={title}
                type="button"
                className="btn sm"
                onClick={() => keep([...sections, { title, text: '' }])}
              >
                <Plus size={12} aria-hidden />
                {title}
              </button>
            ))}
        </div>
      )}
    </Part>
  );
}

function SectionRow({
  section,
  put,
  onRemove,
}: {
  section: Section;
  put: (part: Partial<Section>) => void;
  onRemove: () => void;
}) {
  return (
    <div className="g-section">
      <div className="flex gap-2">
        <input
          className="in"
          aria-label={say.titleOfTheSection}
          placeholder={say.care}
          value={section.title}
          maxLength={80}
          onChange={(e) => put({ title: e.target.value })}
        />
        <button
          type="button"
          className="btn quiet beet"
          aria-label={say.takeOutTheSection(section.title)}
          onClick={onRemove}
        >
          <X size={13} aria-hidden />
        </button>
      </div>
      <Suspense fallback={<p className="note">{say.opening}</p>}>
        <RichEditor
          label={say.textOf(section.title || say.theSection)}
          value={section.text}
          onChange={(text) => put({ text })}
        />
      </Suspense>
    </div>
  );
}
