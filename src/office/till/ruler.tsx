import { type Band, bandFaults } from '../../core/till/rules';
import { useMoney } from '../shop-context';
import { ruler as say } from '../words/till';

/** Where each band lies along the ruler, in per cent; the last one without an end has the rest. Pure, so that it can be proven. */
export function spans(
  bands: readonly Band[],
): { readonly from: number; readonly width: number; readonly over: boolean }[] {
  const ends = bands.map((b) => b.upTo);
  const known = Math.max(0, ...ends.filter((e): e is number => e !== null));
  const whole = (ends.includes(null) ? known * 1.25 : known) || 1;
  // Square roots: bands near nought are narrow in grams, and most parcels are there.
  const at = (n: number) => Math.sqrt(n / whole) * 100;
  let before = 0;
  return bands.map((b) => {
    const end = b.upTo ?? whole;
    const over = end <= before;
    const span = {
      from: at(Math.min(before, end)),
      width: Math.max(0, at(Math.max(before, end)) - at(Math.min(before, end))),
      over,
    };
    before = Math.max(before, end);
    return span;
  });
}

/** The bands of a way as a ruler, drawn while they are typed: overlaps in marigold, and this cart's place on it. @param told with the ends of bands beneath, and in words, where they stand nowhere else. */
export function Ruler({
  bands,
  unit,
  cart,
  told = false,
}: {
  bands: readonly Band[];
  unit: (n: number) => string;
  cart: { readonly band: number; readonly measure: number } | null;
  told?: boolean;
}) {
  const money = useMoney();
  const drawn = spans(bands);
  const faults = bandFaults(bands);
  const here = cart && drawn[cart.band];
  const widthOf = (n: number): string => `${Math.max(6, drawn[n]?.width ?? 0)}%`;
  return (
    <div className="bruler">
      {here && (
        <p className="now" style={{ left: `${Math.min(88, Math.max(10, here.from + here.width / 2))}%` }}>
          {say.thisCart(unit(cart.measure))}
        </p>
      )}
      <div className="bds" aria-hidden="true">
        {bands.map((b, n) => (
          <div
            // biome-ignore lint/suspicious/noArrayIndexKey: a band has no identity but its place
            key={n}
            className={['bd', n === cart?.band && 'here', drawn[n]?.over && 'bad'].filter(Boolean).join(' ')}
            style={{ width: widthOf(n) }}
          >
            <b>{money(b.price)}</b>
          </div>
        ))}
      </div>
      {told && (
        <div className="tks" aria-hidden="true">
          {bands.map((b, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: as above
            <span key={n} style={{ width: widthOf(n) }}>
              {b.upTo === null ? say.andMore : unit(b.upTo)}
            </span>
          ))}
        </div>
      )}
      {told && (
        <p className="sr-only">
          {bands
            .map((b) => `${b.upTo === null ? say.aboveThat : say.upTo(unit(b.upTo))} ${money(b.price)}`)
            .join(', ')}
        </p>
      )}
      {faults.map((f) => (
        <p key={f.kind + f.at} className={f.kind === 'end' ? 'note' : 'field-error'}>
          {faultWords(f, unit(bands.at(-1)?.upTo ?? 0))}
        </p>
      ))}
    </div>
  );
}

function faultWords(fault: ReturnType<typeof bandFaults>[number], last: string): string {
  if (fault.kind === 'end') return say.beyondThisWayIsNotOffered(last);
  if (fault.kind === 'none') return say.noBandYetThisWayIs;
  return `${fault.message.charAt(0).toUpperCase()}${fault.message.slice(1)}.`;
}
