import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { newPasswordLinkIn } from '../../src/services/people/new-password-link';
import type { Command } from '../support/command';

/** Beside the built program. */
const migrations = fileURLToPath(new URL('../migrations', import.meta.url));

export const newPassword: Command = {
  name: 'new-password',
  about: 'Makes a link with which somebody of the office chooses a new password.',
  usage: 'new-password ADDRESS [--data DIR] [--office URL]',
  help: 'For an office that sends no letters. The link works once, within an hour; whoever is signed in as that person is signed out by it.\nDIR is the data folder ("data"), URL where people see the office (STALL_OFFICE_URL).',
  options: { data: { type: 'string' }, office: { type: 'string' } },
  needs: ['ADDRESS'],
  async run({ args: [email = ''], flags }, out) {
    const folder = resolve(String(flags.data ?? process.env.STALL_DATA ?? 'data'));
    const office = String(flags.office ?? process.env.STALL_OFFICE_URL ?? 'http://localhost:4600');
    const link = await newPasswordLinkIn(folder, migrations, { office: office.replace(/\/$/, ''), email });
    out.give({ link });
    out.say(link);
    return 0;
  },
};
