/**
 * What people do in an office: the owner everything, a helper orders and stock, a bookkeeper reads what was
 * earned.
 */
export const roles = ['owner', 'helper', 'bookkeeper'] as const;
export type Role = (typeof roles)[number];

/**
 * What one may be allowed to do. Whatever is not one of the others is the owner's own: a new endpoint is
 * closed to all others until somebody says who needs it.
 */
export const rights = [
  'see-orders',
  'handle-orders',
  'handle-money',
  'see-goods',
  'count-stock',
  'see-books',
  'own',
] as const;
export type Right = (typeof rights)[number];

const granted: Readonly<Record<Role, ReadonlySet<Right>>> = {
  owner: new Set(rights),
  helper: new Set<Right>(['see-orders', 'handle-orders', 'see-goods', 'count-stock']),
  bookkeeper: new Set<Right>(['see-orders', 'see-books']),
};

/** Whether somebody in this role may do that. */
export const mayDo = (role: Role, right: Right): boolean => granted[role].has(right);
