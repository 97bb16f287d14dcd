import { useState } from 'react';
import type { Pitch } from '../../core/site/pitch';
import type { BenchView } from '../../services/publishing/bench';
import { type Layout, nearest, type PitchLine } from './geometry';
import { overlay as say } from '../words/bench';

interface Props {
  readonly view: BenchView;
  readonly pitches: readonly Pitch[];
  readonly lines: readonly PitchLine[];
  readonly layout: Layout;
  readonly scale: number;
  readonly chosenPitch: number | null;
  readonly chosenWidget: string | null;
  readonly lifted: string | null;
  readonly onPitch: (index: number | null) => void;
  readonly onWidget: (id: string) => void;
  readonly onDrop: (pitch: Pitch) => void;
  readonly onLift: (what: string | null) => void;
}

const regionWords = {
  header: say.header,
  main: say.main,
  side: say.sideColumn,
  'side-2': say.secondSideColumn,
  footer: say.footer,
  page: say.page,
  menu: say.menu,
} as const;

/** Our marks over the page: pitches, the one under the pointer or chosen by keys, and the widgets that stand. */
export function Overlay({
  view,
  pitches,
  lines,
  layout,
  scale,
  chosenPitch,
  chosenWidget,
  lifted,
  onPitch,
  onWidget,
  onDrop,
  onLift,
}: Props) {
  const [hovered, setHovered] = useState<number | null>(null);
  const at = (e: React.MouseEvent) => {
    const box = e.currentTarget.getBoundingClientRect();
    return nearest(lines, (e.clientX - box.left) / scale, (e.clientY - box.top) / scale);
  };
  const shown = (lifted ? hovered : null) ?? chosenPitch ?? hovered;
  const line = lines.find((l) => l.index === shown);
  return (
    // Pointer only: keys choose pitches with [ and ], and every shown one has its own button.
    // biome-ignore lint/a11y/noStaticElementInteractions: see above
    // biome-ignore lint/a11y/useKeyWithClickEvents: see above
    <div
      className="overlay"
      onMouseMove={(e) => setHovered(e.target === e.currentTarget ? (at(e)?.index ?? null) : null)}
      onMouseLeave={() => setHovered(null)}
      onClick={(e) => e.target === e.currentTarget && onPitch(at(e)?.index ?? null)}
      onDragOver={(e) => {
        e.preventDefault();
        setHovered(at(e)?.index ?? null);
      }}
      onDrop={(e) => {
        e.preventDefault();
        const pitch = pitches[at(e)?.index ?? -1];
        setHovered(null);
        if (pitch) onDrop(pitch);
      }}
    >
      {lines
        .filter((l) => l.main)
        .map((l) => (
          <span key={l.index} className="pitch" style={{ left: 0, right: 0, top: l.y * scale }} />
        ))}
      {pluses(lines).map((l) => (
        <button
          key={l.index}
          type="button"
          className="plus"
          style={{ top: l.y * scale }}
          aria-pressed={chosenPitch === l.index}
          aria-label={say.pitch(pitches[l.index]?.label)}
          onClick={() => onPitch(l.index)}
        >
          <svg width="10" height="10" viewBox="0 0 10 10" aria-hidden="true">
            <path d="M5 1v8M1 5h8" stroke="currentColor" strokeWidth="1.6" />
          </svg>
        </button>
      ))}
      {line && (
        <Drop
          line={line}
          pitch={pitches[line.index]}
          scale={scale}
          pageWidth={Math.max(...lines.map((l) => l.x + l.w))}
          quiet={chosenPitch === null && !lifted}
        />
      )}
      {layout.widgets
        .filter((w) => w.w > 0)
        .map((w) => {
          const placement = view.placements.find((p) => p.id === w.id);
          if (!placement) return null;
          const name = view.shelf.find((k) => k.kind === placement.kind)?.name ?? placement.kind;
          const chosen = chosenWidget === w.id;
          return (
            <button
              key={w.id}
              type="button"
              className={frameClass(w, scale)}
              aria-pressed={chosen}
              aria-label={`${name} ${placement.pitchLabel}`}
              onClick={() => onWidget(w.id)}
              draggable
              onDragStart={(e) => {
                e.dataTransfer.setData('text/plain', w.id);
                e.dataTransfer.effectAllowed = 'copyMove';
                onLift(`move:${w.id}`);
              }}
              onDragEnd={() => onLift(null)}
              style={{
                left: w.x * scale - 4,
                top: w.y * scale - 4,
                width: w.w * scale + 8,
                height: w.h * scale + 8,
              }}
            >
              {chosen && (
                <>
                  <i className="corner" style={{ left: -5, top: -5 }} />
                  <i className="corner" style={{ right: -5, top: -5 }} />
                  <i className="corner" style={{ left: -5, bottom: -5 }} />
                  <i className="corner" style={{ right: -5, bottom: -5 }} />
                  <span className="tag">{name}</span>
                </>
              )}
            </button>
          );
        })}
    </div>
  );
}

/** One button to each shown line; lines that lie on each other share one. */
function pluses(lines: readonly PitchLine[]): PitchLine[] {
  const out: PitchLine[] = [];
  for (const l of lines.filter((x) => x.main)) if (!out.some((o) => Math.abs(o.y - l.y) < 30)) out.push(l);
  return out;
}

/** The open pitch: an awning where the widget will stand, and words for the place. */
function Drop({
  line,
  pitch,
  scale,
  pageWidth,
  quiet,
}: {
  line: PitchLine;
  pitch: Pitch | undefined;
  scale: number;
  pageWidth: number;
  quiet: boolean;
}) {
  if (!pitch) return null;
  const width = line.upright ? 230 : Math.max(210, line.w * scale - 12);
  const words = `${regionWords[pitch.region]}: ${pitch.label}`;
  if (quiet) {
    const lying = {
      left: line.x * scale,
      top: line.y * scale - 1,
      width: line.upright ? 0 : line.w * scale,
      height: line.upright ? line.h * scale : 0,
    };
    return (
      <div className={line.upright ? 'drop quiet v' : 'drop quiet'} style={lying}>
        <span>{words}</span>
      </div>
    );
  }
  const left = Math.min(
    Math.max(4, line.x * scale + (line.upright ? -115 : 6)),
    Math.max(4, pageWidth * scale - width - 4),
  );
  const top = (line.y + (line.upright ? line.h / 2 : 0)) * scale - 17;
  return (
    <div className="drop" style={{ left, top: Math.max(2, top), width }}>
      <span>{words}</span>
    </div>
  );
}

/** Brackets beside the page that say which part is shared by how many pages. */
export function Regions({ view, layout, scale }: { view: BenchView; layout: Layout; scale: number }) {
  const boxes = new Map(layout.anchors.map((a) => [a.n, a]));
  return (
    <>
      {view.regions
        .filter((r) => r.region !== 'side' && r.region !== 'side-2')
        .map((r) => {
          const box = boxes.get(r.at);
          if (!box || box.h < 20) return null;
          return (
            <div key={r.region} className="reg" style={{ top: box.y * scale + 1, height: box.h * scale - 2 }}>
              <span>
                <b>{regionWords[r.region]}</b>
                {r.region === 'main' ? say.thisPage : say.pages(r.pages)}
              </span>
            </div>
          );
        })}
    </>
  );
}

/** Words of a frame stand inside where it is wide, and to its left where it stands far right. */
function frameClass({ w, x }: { readonly w: number; readonly x: number }, scale: number): string {
  if (w * scale > 400) return 'widget wide';
  return x > 600 ? 'widget right' : 'widget';
}
