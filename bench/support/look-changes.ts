import { formatHex } from 'culori';
import { chances } from '../../e2e/support/person';
import type { SourceName } from '../../src/core/look/found/sources';
import { difference } from '../../src/core/look/remedy';

/** Values of a style sheet that an owner may change, by what they are of. */
export interface Style {
  readonly ground: string;
  readonly text: string;
  readonly link: string;
  readonly heading: string;
  readonly button: string;
  readonly buttonText: string;
  readonly corner: number;
  readonly padX: number;
  readonly face: string;
  readonly headingFace: string;
  readonly size: number;
  readonly fieldEdge: string;
}

const sources: Readonly<Record<keyof Style, SourceName>> = {
  ground: 'ground',
  text: 'text',
  link: 'link',
  heading: 'heading',
  button: 'button',
  buttonText: 'button-text',
  corner: 'button-corner',
  padX: 'button-pad-x',
  face: 'text-face',
  headingFace: 'heading-face',
  size: 'text-size',
  fieldEdge: 'field-edge',
};

export const sheetOf = (s: Style): string =>
  `body{background:${s.ground};color:${s.text};font:${s.size}px/1.5 ${s.face}} h1,h2,h3{font-family:${s.headingFace};color:${s.heading}} a{color:${s.link}} .btn{display:inline-block;background:${s.button};color:${s.buttonText};border-radius:${s.corner}px;padding:11px ${s.padX}px;border:0} input{border:1px solid ${s.fieldEdge};background:#fff}`;

const faces = [
  'Georgia, serif',
  '"Iowan Old Style", serif',
  'Verdana, sans-serif',
  '"Trebuchet MS", sans-serif',
];

/** A style, the same with one value changed so that it is seen, and which that was. */
export function changes(seed: number): { before: Style; after: Style; source: SourceName } {
  const chance = chances(seed + 1);
  const colour = (from: number, to: number): string => {
    const one = () => from + chance() * (to - from);
    return formatHex({ mode: 'rgb', r: one(), g: one(), b: one() });
  };
  const pick = <T>(of: readonly T[]): T => of[Math.floor(chance() * of.length)] as T;
  const make = (): Style => ({
    ground: colour(0.85, 1),
    text: colour(0, 0.3),
    link: colour(0.1, 0.6),
    heading: colour(0, 0.4),
    button: colour(0, 0.5),
    buttonText: colour(0.9, 1),
    corner: Math.round(chance() * 20),
    padX: 10 + Math.round(chance() * 30),
    face: pick(faces),
    headingFace: pick(faces),
    size: 14 + Math.round(chance() * 7),
    fieldEdge: colour(0.3, 0.7),
  });
  const before = make();
  const key = pick(Object.keys(sources) as (keyof Style)[]);
  for (;;) {
    const other = make()[key];
    const after: Style = { ...before, [key]: other };
    if (isSeen(before[key], other)) return { before, after, source: sources[key] };
  }
}

function isSeen(a: string | number, b: string | number): boolean {
  if (typeof a === 'number' && typeof b === 'number') return Math.abs(a - b) >= 1;
  return String(a).startsWith('#') ? difference(String(a), String(b)) >= 2 : a !== b;
}
