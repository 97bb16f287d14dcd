import type { Place } from './shop-context';
import { later as say } from './words/frame';

interface Plan {
  readonly title: string;
  readonly today: string;
  readonly holds: readonly (readonly [string, string])[];
}

/** What a place that is not built yet will hold, and what stands in for it today. */
const later: Readonly<Record<'checks', Plan>> = {
  checks: {
    title: say.checks,
    today: say.todayGreenStallChecksEachPage,
    holds: [
      [say.findings, say.eachWithPlaceReasonAndMend],
      [say.theShoppersWays, say.howManyClicksFromEveryPage],
      [say.history, say.whatCameAndWentBetweenRuns],
    ],
  },
};

export function Later({ place }: { place: Place }) {
  const it = later[place as keyof typeof later];
  return (
    <div className="later">
      <h1>{it.title}</h1>
      <p>{it.today}</p>
      <p className="mt-6 font-semibold text-ink">{say.thisPlaceIsNotBuiltYet}</p>
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
