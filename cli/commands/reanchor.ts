import { writeFile } from 'node:fs/promises';
import { type Anchoring, reanchor as findAgain } from '../../src/core/placement/reanchor';
import type { Command } from '../support/command';
import { loadPlan, readFrom } from '../support/site';
import { count } from './read';

export const reanchor: Command = {
  name: 'reanchor',
  about: 'Finds every placement of a plan again in a newer version of the site.',
  usage: 'reanchor OLD NEW --plan plan.json [--write new-plan.json]',
  help: 'OLD is the site the plan was made for, NEW the newer one. Pages that were renamed are found by what they say.\nWhat is not surely found is reported with the best proposal, never set; then the exit status is 1.',
  options: { plan: { type: 'string' }, write: { type: 'string' } },
  needs: ['OLD', 'NEW'],
  async run({ args: [oldDir = '', newDir = ''], flags }, out) {
    const plan = await loadPlan(String(flags.plan ?? 'plan.json'));
    const [before, after] = [await readFrom(oldDir, out, plan), await readFrom(newDir, out, plan)];
    const done = await findAgain(before, after, plan.placements, (n, all) =>
      out.progress('looking for placement', n, all),
    );
    if (typeof flags.write === 'string')
      await writeFile(flags.write, `${JSON.stringify({ ...plan, placements: done.placements }, null, 2)}\n`);
    const lost = done.anchorings.filter((a) => !a.found).length;
    const found = done.anchorings.length - lost;
    const moved = [...done.pages].filter(([was, now]) => was !== now);
    out.give({
      pages: moved.map(([was, now]) => ({ was, now: now ?? null })),
      found,
      placements: done.anchorings.map(asData),
    });
    for (const [was, now] of moved) out.say(now ? `${was} is now ${now}` : `${was} is gone`);
    for (const a of done.anchorings) if (a.found) out.say(inWords(a));
    for (const a of done.anchorings) if (!a.found) out.warn(inWords(a));
    out.say(`${count(found, 'placement')} found again, ${lost} for the owner to look at.`);
    return lost > 0 ? 1 : 0;
  },
};

function asData(a: Anchoring): object {
  if (a.found)
    return { id: a.id, page: a.page, was: a.was, found: true, label: a.label, confidence: a.confidence };
  const best = a.best ? { label: a.best.label, confidence: a.confidence, pitch: a.best.address } : null;
  return { id: a.id, page: a.page ?? null, was: a.was, found: false, why: a.why, best };
}

function inWords(a: Anchoring): string {
  const sure = `(${Math.round(a.confidence * 100)}%)`;
  if (a.found) return `${a.id}  ${a.page}  ${a.label} ${sure}`;
  return `${a.id}  ${a.page ?? a.was}: lost: ${a.why}.${a.best ? ` Perhaps ${a.best.label} ${sure}.` : ''}`;
}
