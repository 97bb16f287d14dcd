import { kinds } from '../../src/core/placement/kinds';
import { planSchema } from '../../src/core/placement/plan';
import { spellings } from '../../src/core/placement/spelling';
import type { Command } from '../support/command';

export const widgets: Command = {
  name: 'widgets',
  about: 'Lists the widgets and the ways a placement can be written.',
  usage: 'widgets',
  help: 'With --json, each widget comes with the schema of its settings.',
  options: {},
  needs: [],
  async run(_, out) {
    out.give({
      widgets: kinds.map((k) => ({
        kind: k.kind,
        name: k.name,
        hint: k.hint,
        built: k.built,
        settings: k.schema(),
      })),
      spellings: Object.entries(spellings).map(([spelling, s]) => ({ spelling, name: s.name, hint: s.hint })),
    });
    for (const k of kinds)
      out.say(`${k.kind.padEnd(11)} ${k.name.padEnd(22)} ${k.built ? k.hint : `${k.hint} (not built yet)`}`);
    out.say('');
    for (const [spelling, s] of Object.entries(spellings))
      out.say(`${spelling.padEnd(11)} ${s.name.padEnd(22)} ${s.hint}`);
    return 0;
  },
};

export const schema: Command = {
  name: 'schema',
  about: 'Prints the JSON Schema of a plan.',
  usage: 'schema',
  help: 'docs/plan.schema.json is this.',
  options: {},
  needs: [],
  async run(_, out) {
    const text = planSchema();
    out.give(text);
    out.say(JSON.stringify(text, null, 2));
    return 0;
  },
};
