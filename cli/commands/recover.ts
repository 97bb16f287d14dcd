import { resolve } from 'node:path';
import { forgetJournal, recover as finishOrUndo } from '../../src/services/sites/in-place';
import type { Command } from '../support/command';
import { journalOf } from '../support/write-site';
import { count } from './read';

export const recover: Command = {
  name: 'recover',
  about: 'Finishes a run with --in-place that was cut off, or puts everything back.',
  usage: 'recover DIR [--undo]',
  help: 'Files that somebody changed meanwhile are never written over: they are named, and nothing is done.',
  options: { undo: { type: 'boolean' } },
  needs: ['DIR'],
  async run({ args: [dir = ''], flags }, out) {
    const folder = resolve(dir);
    const place = { folder, journal: journalOf(folder), read: async () => Buffer.alloc(0) };
    const journal = await finishOrUndo(place, flags.undo ? 'undo' : 'finish');
    await forgetJournal(place.journal);
    const done = flags.undo ? 'undone' : 'finished';
    out.give({
      files: journal?.changes.length ?? 0,
      did: journal ? done : 'nothing',
    });
    out.say(
      journal
        ? `${count(journal.changes.length, 'file')} ${flags.undo ? 'as before' : 'as wanted'}.`
        : 'Nothing was cut off here.',
    );
    return 0;
  },
};
