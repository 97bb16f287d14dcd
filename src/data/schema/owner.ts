import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import type { Role } from '../../core/people/roles';

/**
 * Tables of the sign-in library (better-auth), in the columns its documentation asks for; those of our own
 * stand at the end.
 */
const at = (name: string) => integer(name, { mode: 'timestamp_ms' });

export const user = sqliteTable('user', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  email: text('email').notNull().unique(),
  emailVerified: integer('email_verified', { mode: 'boolean' }).notNull(),
  image: text('image'),
  /** Ours: what this person may do. Whoever was there before there were roles is an owner. */
  role: text('role').$type<Role>().notNull().default('owner'),
  twoFactorEnabled: integer('two_factor_enabled', { mode: 'boolean' }).notNull().default(false),
  createdAt: at('created_at').notNull(),
  updatedAt: at('updated_at').notNull(),
});

export const session = sqliteTable('session', {
  id: text('id').primaryKey(),
  expiresAt: at('expires_at').notNull(),
  token: text('token').notNull().unique(),
  createdAt: at('created_at').notNull(),
  updatedAt: at('updated_at').notNull(),
  ipAddress: text('ip_address'),
  userAgent: text('user_agent'),
  userId: text('user_id')
    .notNull()
    .references(() => user.id, { onDelete: 'cascade' }),
});

export const account = sqliteTable('account', {
  id: text('id').primaryKey(),
  accountId: text('account_id').notNull(),
  providerId: text('provider_id').notNull(),
  userId: text('user_id')
    .notNull()
    .references(() => user.id, { onDelete: 'cascade' }),
  accessToken: text('access_token'),
  refreshToken: text('refresh_token'),
  idToken: text('id_token'),
  accessTokenExpiresAt: at('access_token_expires_at'),
  refreshTokenExpiresAt: at('refresh_token_expires_at'),
  scope: text('scope'),
  password: text('password'),
  createdAt: at('created_at').notNull(),
  updatedAt: at('updated_at').notNull(),
});

export const verification = sqliteTable('verification', {
  id: text('id').primaryKey(),
  identifier: text('identifier').notNull(),
  value: text('value').notNull(),
  expiresAt: at('expires_at').notNull(),
  createdAt: at('created_at'),
  updatedAt: at('updated_at'),
});

export const twoFactor = sqliteTable(
  'two_factor',
  {
    id: text('id').primaryKey(),
    secret: text('secret').notNull(),
    backupCodes: text('backup_codes').notNull(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    verified: integer('verified', { mode: 'boolean' }).notNull().default(true),
    failedVerificationCount: integer('failed_verification_count').notNull().default(0),
    lockedUntil: at('locked_until'),
  },
  (t) => [index('two_factor_user').on(t.userId)],
);

/** Links by which people come in who were asked to. Of the key only its hash is kept. */
export const invitations = sqliteTable('invitations', {
  id: text('id').primaryKey(),
  keyHash: text('key_hash').notNull().unique(),
  email: text('email').notNull(),
  role: text('role').$type<Role>().notNull(),
  invitedBy: text('invited_by').notNull(),
  createdAt: at('created_at').notNull(),
  expiresAt: at('expires_at').notNull(),
  usedAt: at('used_at'),
});

/**
 * Wrong tries to sign in, one row for an account as strangers try it, one for each browser that is known.
 * Keys are hashes.
 */
export const signInAttempts = sqliteTable(
  'sign_in_attempts',
  {
    key: text('key').primaryKey(),
    wrong: integer('wrong').notNull(),
    lastAt: at('last_at').notNull(),
    lockedUntil: at('locked_until'),
    /** When the owner was last told by letter. */
    toldAt: at('told_at'),
  },
  (t) => [index('sign_in_attempts_last').on(t.lastAt)],
);

/** Who did what in the office: by whom, on which site, which route of the contract, and to what. */
export const activity = sqliteTable(
  'activity',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    at: at('at').notNull(),
    userId: text('user_id'),
    /** As the person was called then: it stays when the person goes. */
    name: text('name').notNull(),
    siteId: text('site_id'),
    what: text('what').notNull(),
    subject: text('subject').notNull().default(''),
  },
  (t) => [index('activity_at').on(t.at)],
);
