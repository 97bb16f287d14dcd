import type { Role } from '../../core/people/roles';
import type { Ctx } from '../context';

/** What the people of an office get by letter: about coming in, never about a shop. */
interface OfficeLetter {
  readonly subject: string;
  /** Paragraphs. */
  readonly text: readonly string[];
}

const roleName: Readonly<Record<Role, string>> = {
  owner: 'an owner',
  helper: 'a helper for orders and stock',
  bookkeeper: 'a bookkeeper',
};

export const invitationLetter = (by: string, role: Role, link: string): OfficeLetter => ({
  subject: `${by} asks you into the office of their shop`,
  text: [
    `${by} asks you to come into the office of their shop, as ${roleName[role]}.`,
    `Choose a password here, within seven days:\n${link}`,
    `If you do not know ${by}, do nothing: without this link nobody comes in.`,
  ],
});

export const newPasswordLetter = (name: string, link: string): OfficeLetter => ({
  subject: 'A new password for your office',
  text: [
    `Hello ${name},`,
    `somebody, most likely you, has asked for a new password. Choose it here, within an hour:\n${link}`,
    'Whoever is signed in with the old one is signed out then. If it was not you, do nothing: the old password stays as it is.',
  ],
});

export const lockLetter = (from: string, office: string): OfficeLetter => ({
  subject: 'Wrong passwords for your office',
  text: [
    `Somebody has tried several wrong passwords for your office, the last time from ${from}.`,
    'New browsers have to wait now before they may try again; browsers that you have used before are not held up.',
    `If it was you: set a new password at ${office}/forgotten`,
    `If it was not: nobody came in, and there is nothing that you must do. A second factor, under ${office}/account, keeps them out even if they guess your password.`,
  ],
});

/** Sends a letter to somebody of the office, without waiting in any queue. @returns whether it could be handed over. */
export async function sendToOffice(ctx: Ctx, to: string, { subject, text }: OfficeLetter): Promise<boolean> {
  if (!ctx.mail) return false;
  return ctx.mail.send({ to, subject, text: text.join('\n\n'), fromName: 'Green Stall' }).then(
    () => true,
    (error: unknown) => {
      ctx.log.warn({ error: String(error) }, 'a letter to the office was not handed over');
      return false;
    },
  );
}
