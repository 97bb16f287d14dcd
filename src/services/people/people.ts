import { createHash } from 'node:crypto';
import { and, eq, gt, isNull, max, ne } from 'drizzle-orm';
import { z } from 'zod';
import { type Role, roles } from '../../core/people/roles';
import type { Tx } from '../../data/database';
import { account, invitations, session, twoFactor, user } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, missing } from '../errors';
import { newId, newToken } from '../ids';
import { invitationLetter, sendToOffice } from './office-letters';

/** An invitation is good for that long, in milliseconds. */
const INVITED_MS = 7 * 24 * 60 * 60_000;

export interface PersonLine {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly secondFactor: boolean;
  readonly since: Date;
  /** When one of the person's sessions began or was prolonged. */
  readonly lastSeen: Date | null;
}

export interface InvitationLine {
  readonly id: string;
  readonly email: string;
  readonly role: Role;
  readonly by: string;
  readonly expiresAt: Date;
}

/** Who may come into the office, and who was asked to. */
export async function listPeople(ctx: Ctx): Promise<{ people: PersonLine[]; invitations: InvitationLine[] }> {
  const [people, invited] = await Promise.all([
    ctx.store.db
      .select({
        id: user.id,
        name: user.name,
        email: user.email,
        role: user.role,
        secondFactor: user.twoFactorEnabled,
        since: user.createdAt,
        lastSeen: max(session.updatedAt),
      })
      .from(user)
      .leftJoin(session, eq(session.userId, user.id))
      .groupBy(user.id)
      .orderBy(user.createdAt),
    ctx.store.db
      .select({
        id: invitations.id,
        email: invitations.email,
        role: invitations.role,
        by: invitations.invitedBy,
        expiresAt: invitations.expiresAt,
      })
      .from(invitations)
      .where(isOpen(ctx))
      .orderBy(invitations.createdAt),
  ]);
  return { people, invitations: invited };
}

const isOpen = (ctx: Ctx) => and(isNull(invitations.usedAt), gt(invitations.expiresAt, ctx.now()));
const hashOf = (key: string): string => createHash('sha256').update(key).digest('base64url');

const asked = z.object({
  email: z.email('Enter an e-mail address like name@example.org.').max(200).toLowerCase(),
  role: z.enum(roles, 'Choose what the person may do.'),
});
export type InvitationAsked = z.input<typeof asked>;

/**
 * Asks somebody in. The link goes to whoever asked, and by letter where letters are sent; only its hash is
 * kept, so it cannot be told again. An older invitation of the same address ends.
 */
export async function invite(
  ctx: Ctx,
  by: string,
  input: unknown,
): Promise<{ link: string; sent: boolean; email: string; role: Role }> {
  const read = asked.safeParse(input);
  if (!read.success) {
    const [issue] = read.error.issues;
    throw invalid(issue?.message ?? 'Something is missing.', { field: issue?.path[0] });
  }
  const { email, role } = read.data;
  const key = newToken();
  const now = ctx.now();
  await ctx.store.write(async (tx) => {
    if ((await tx.select({ id: user.id }).from(user).where(eq(user.email, email))).length > 0)
      throw conflict('This person is already here. Change what they may do in the list.', { field: 'email' });
    await tx.delete(invitations).where(and(eq(invitations.email, email), isNull(invitations.usedAt)));
    await tx.insert(invitations).values({
      ...{ id: newId(), keyHash: hashOf(key), email, role, invitedBy: by, createdAt: now },
      expiresAt: new Date(now.getTime() + INVITED_MS),
    });
  });
  const link = `${ctx.addresses.office}/join?key=${key}`;
  const sent = await sendToOffice(ctx, email, invitationLetter(by, role, link));
  return { link, sent, email, role };
}

export async function withdrawInvitation(ctx: Ctx, id: string): Promise<string> {
  const [gone] = await ctx.store.write((tx) =>
    tx
      .delete(invitations)
      .where(and(eq(invitations.id, id), isNull(invitations.usedAt)))
      .returning({ email: invitations.email }),
  );
  if (!gone) throw missing('This invitation was used or taken back already.');
  return gone.email;
}

/** Whom a link was made for; nothing where it is used, over or made up. */
export async function invitationOf(
  ctx: Ctx,
  key: string,
): Promise<{ email: string; role: Role } | undefined> {
  const [row] = await ctx.store.db
    .select({ email: invitations.email, role: invitations.role })
    .from(invitations)
    .where(and(eq(invitations.keyHash, hashOf(key)), isOpen(ctx)));
  return row;
}

/** Uses an invitation up: of many at once one gets it. */
export async function takeInvitation(
  ctx: Ctx,
  key: string,
): Promise<{ id: string; email: string; role: Role } | undefined> {
  const [row] = await ctx.store.write((tx) =>
    tx
      .update(invitations)
      .set({ usedAt: ctx.now() })
      .where(and(eq(invitations.keyHash, hashOf(key)), isOpen(ctx)))
      .returning({ id: invitations.id, email: invitations.email, role: invitations.role }),
  );
  return row;
}

/** Nobody came in after all. */
export async function giveInvitationBack(ctx: Ctx, id: string): Promise<void> {
  await ctx.store.write((tx) => tx.update(invitations).set({ usedAt: null }).where(eq(invitations.id, id)));
}

/** Lets a person who was just made in, in a role. */
export async function grantRole(ctx: Ctx, email: string, role: Role): Promise<void> {
  await ctx.store.write((tx) => tx.update(user).set({ role }).where(eq(user.email, email)));
}

/**
 * Makes the person who was just made the first owner, if there is none: decided in one write, so that of many
 * who come at once, through however many processes, one is let in and the others are gone again. @returns
 * whether it is the one.
 */
export async function becomeFirstOwner(ctx: Ctx, email: string): Promise<boolean> {
  return ctx.store.write(async (tx) => {
    const [me] = await tx.select({ id: user.id }).from(user).where(eq(user.email, email));
    const owners = await tx.select({ id: user.id }).from(user).where(eq(user.role, 'owner'));
    if (!me) return false;
    if (owners.length === 0) {
      await tx.update(user).set({ role: 'owner' }).where(eq(user.id, me.id));
      return true;
    }
    if (owners.every((o) => o.id !== me.id)) await erase(tx, me.id);
    return false;
  });
}

export async function hasOwner(ctx: Ctx): Promise<boolean> {
  return (await ctx.store.db.$count(user, eq(user.role, 'owner'))) > 0;
}

/** @throws Refusal when nobody would be left who may do everything. */
export async function changeRole(ctx: Ctx, id: string, input: unknown): Promise<PersonChanged> {
  const role = z.enum(roles).safeParse(input);
  if (!role.success) throw invalid('Choose what the person may do.');
  return ctx.store.write(async (tx) => {
    const person = await personIn(tx, id);
    if (role.data !== 'owner') await keepAnOwner(tx, id);
    await tx.update(user).set({ role: role.data }).where(eq(user.id, id));
    return { ...person, role: role.data };
  });
}

/**
 * Ends a person's account: what they did stays written down. @throws Refusal when nobody would be left who
 * may do everything.
 */
export async function removePerson(ctx: Ctx, id: string): Promise<PersonChanged> {
  return ctx.store.write(async (tx) => {
    const person = await personIn(tx, id);
    await keepAnOwner(tx, id);
    await erase(tx, id);
    return person;
  });
}

type PersonChanged = { readonly name: string; readonly role: Role };

async function personIn(tx: Tx, id: string): Promise<PersonChanged> {
  const [person] = await tx.select({ name: user.name, role: user.role }).from(user).where(eq(user.id, id));
  if (!person) throw missing('This person is no longer here.');
  return person;
}

async function keepAnOwner(tx: Tx, id: string): Promise<void> {
  const others = await tx
    .select({ id: user.id })
    .from(user)
    .where(and(eq(user.role, 'owner'), ne(user.id, id)));
  if (others.length === 0)
    throw conflict(
      'This is the only owner. Make somebody else an owner first; an office without one cannot be opened again.',
    );
}

/** All that is kept of an account. */
async function erase(tx: Tx, id: string): Promise<void> {
  await tx.delete(session).where(eq(session.userId, id));
  await tx.delete(twoFactor).where(eq(twoFactor.userId, id));
  await tx.delete(account).where(eq(account.userId, id));
  await tx.delete(user).where(eq(user.id, id));
}
