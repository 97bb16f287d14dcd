import type { Place } from './shop-context';

interface Plan {
  readonly title: string;
  readonly today: string;
  readonly holds: readonly (readonly [string, string])[];
}

/** What a place that is not built yet will hold, and what stands in for it today. */
const later: Readonly<Record<'look' | 'checks', Plan>> = {
  look: {
    title: 'Look',
    today:
      'Today the shop takes button, fonts, colours and corners from your style sheets by itself, and makes every pair of colours readable. There is nothing to set yet.',
    holds: [
      ['What was found', 'the colours, fonts, corners and widths of your site, by role and share of use'],
      ['What the shop wears', 'and the thread from each to your site, with its contrast'],
      ['Drift', 'when your site changes, what no longer matches, and one click to follow'],
    ],
  },
  checks: {
    title: 'Checks',
    today:
      'Today Green Stall checks each page as it writes it: a widget is left out, and you are told, rather than set in a place that is not sure. No check runs over the whole site yet.',
    holds: [
      [
        'Findings',
        'each with place, reason and mend: cart out of reach, dead links, prices in the text that are no longer true',
      ],
      ["The shopper's ways", 'how many clicks from every page to a finished checkout'],
      ['History', 'what came and went between runs'],
    ],
  },
};

export function Later({ place }: { place: Place }) {
  const it = later[place as keyof typeof later];
  return (
    <div className="later">
      <h1>{it.title}</h1>
      <p>{it.today}</p>
      <p className="mt-6 font-semibold text-ink">This place is not built yet. It will hold:</p>
      <ul>
        {it.holds.map(([name, what]) => (
          <li key={name}>
            <b>{name}</b>: {what}
          </li>
        ))}
      </ul>
    </div>
  );
}
