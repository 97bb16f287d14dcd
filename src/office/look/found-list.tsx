import { ScanSearch } from 'lucide-react';
import type { Found, FoundColour } from '../../core/look/found/found';
import type { SourceName } from '../../core/look/found/sources';
import { colourName, useLabels, valueLabel } from '../../core/look/labels';
import { found as say } from '../words/look';
import { useSiteFaces } from './site-faces';

/** What was found of a shape is tied to by its name. */
export const shapeSources = [
  'button-corner',
  'field-corner',
  'card-corner',
  'picture-corner',
  'space',
  'width',
] as const;

export const colourKey = (value: string): string => value;
export const faceKey = (family: string): string => `face ${family}`;
export const shapeKey = (source: SourceName): string => `shape ${source}`;

interface Props {
  readonly found: Found;
  /** Fonts that may not be embedded. */
  readonly notInFrames: readonly string[];
  readonly chosen: string | null;
  /** Found things that a thread hangs on. */
  readonly tied: ReadonlySet<string>;
  readonly onChoose: (key: string | null) => void;
  readonly onPlaces: (colour: FoundColour) => void;
}

/** Colours with their share, faces, and shapes; each is a button that makes its threads stand out. */
export function FoundList({ found, notInFrames, chosen, tied, onChoose, onPlaces }: Props) {
  const choose = (key: string) => onChoose(chosen === key ? null : key);
  return (
    <section className="lk-found" aria-label={say.foundOnTheSite}>
      <ul>
        {found.colours.map((c) => (
          <li
            key={c.value}
            data-found={colourKey(c.value)}
            className={tied.has(colourKey(c.value)) ? 'tied' : ''}
          >
            <button
              type="button"
              aria-pressed={chosen === colourKey(c.value)}
              onClick={() => choose(colourKey(c.value))}
            >
              <i className="sw" style={{ background: c.value }} />
              <span className="nm">
                <b>{colourName(c)}</b>
                <em>
                  <span className="mono">{c.value.toUpperCase()}</span> {otherUses(c)}
                </em>
              </span>
              <span className="pc mono">
                {percent(c.share)}
                <span className="bar">
                  <u style={{ width: `${Math.max(2, Math.sqrt(c.share) * 100)}%` }} />
                </span>
              </span>
            </button>
            {c.places.length > 0 && (
              <button
                type="button"
                className="where"
                aria-label={say.where(colourName(c))}
                title={say.where(colourName(c))}
                onClick={() => onPlaces(c)}
              >
                <ScanSearch size={15} aria-hidden />
              </button>
            )}
            <span className="knot" />
          </li>
        ))}
      </ul>
      <h2>{say.fonts}</h2>
      <Faces found={found} chosen={chosen} tied={tied} onChoose={choose} />
      <h2>{say.shape}</h2>
      <ul>
        {shapeSources.flatMap((source) => {
          const value = found.sources[source];
          if (value === undefined) return [];
          return [
            <li
              key={source}
              data-found={shapeKey(source)}
              className={tied.has(shapeKey(source)) ? 'plain tied' : 'plain'}
            >
              <button
                type="button"
                aria-pressed={chosen === shapeKey(source)}
                onClick={() => choose(shapeKey(source))}
              >
                <span className="nm">{say.shapes[source]}</span>
                <span className="mono">
                  {valueLabel(
                    source.endsWith('corner') ? 'corner' : 'length',
                    String(Math.round(Number(value) * 10) / 10),
                  )}
                </span>
              </button>
              <span className="knot" />
            </li>,
          ];
        })}
      </ul>
      {notInFrames.length > 0 && <p className="note">{say.notInFrames(notInFrames.join(', '))}</p>}
      {found.cannot.length > 0 && <p className="note">{say.couldNotBeSeen(found.cannot.join('; '))}</p>}
    </section>
  );
}

type FacesProps = Pick<Props, 'found' | 'chosen' | 'tied'> & { readonly onChoose: (key: string) => void };

function Faces({ found, chosen, tied, onChoose }: FacesProps) {
  const faces = useSiteFaces();
  return (
    <ul>
      {found.fonts.slice(0, 5).map((f) => (
        <li
          key={f.family}
          data-found={faceKey(f.family)}
          className={tied.has(faceKey(f.family)) ? 'plain tied' : 'plain'}
        >
          <button
            type="button"
            aria-pressed={chosen === faceKey(f.family)}
            onClick={() => onChoose(faceKey(f.family))}
          >
            <span className="face" style={{ fontFamily: faces(f.family) }} aria-hidden="true">
              {say.specimen}
            </span>
            <span className="nm">
              <b>{f.face}</b>
              <em>{roleWords(f.roles)}</em>
            </span>
            <span className="pc mono">{percent(f.share)}</span>
          </button>
          <span className="knot" />
        </li>
      ))}
    </ul>
  );
}

/** What else it is used for than what it is named by. */
const otherUses = (c: FoundColour): string =>
  c.uses.length
    ? c.uses
        .slice(1, 4)
        .map((use) => useLabels[use])
        .join(', ')
    : say.underThePointer;

const percent = (share: number): string => {
  if (share <= 0) return '';
  return share < 0.005 ? '<1%' : `${Math.round(share * 100)}%`;
};

const roleWords = (roles: readonly string[]): string => {
  const words = new Set(roles.map((r) => (r.startsWith('heading') ? say.headings : r)));
  return [...words].slice(0, 3).join(', ');
};
