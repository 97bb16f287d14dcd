import type { Role } from '../core/people/roles';
import type { ActivityLine } from '../services/people/activity';
import type { InvitationAsked, InvitationLine, PersonLine } from '../services/people/people';
import type { SessionLine } from '../services/people/sessions';

/**
 * What may be asked about accounts: method and path below `/api/account/`. Types alone, as in endpoints.ts;
 * who may ask what stands in rights.ts.
 */
export interface AccountEndpoints {
  'POST sign-in': { body: { email: string; password: string }; answer: { next: 'in' | 'code' } };
  'POST sign-in/code': { body: { code: string }; answer: { next: 'in' | 'code' } };
  'DELETE sign-in': { answer: { done: true } };
  'POST forgotten': { body: { email: string }; answer: { sends: boolean } };
  'PUT forgotten': { body: { token: string; password: string }; answer: { done: true } };
  'POST join': { body: { key: string; name: string; password: string }; answer: { email: string } };

  'GET me': { answer: { sessions: SessionLine[] } };
  'PUT password': { body: { current: string; password: string }; answer: { done: true } };
  'DELETE sessions': { body: { id: string } | 'others'; answer: { ended: number } };
  'POST second-factor': {
    body: { password: string };
    answer: { uri: string; secret: string; picture: string; spare: readonly string[] };
  };
  'PUT second-factor': { body: { code: string }; answer: { done: true } };
  'DELETE second-factor': { body: { password: string }; answer: { done: true } };

  'GET people': { answer: { people: PersonLine[]; invitations: InvitationLine[] } };
  'POST people': {
    body: InvitationAsked;
    answer: { link: string; sent: boolean; email: string; role: Role };
  };
  'PATCH people/:id': { body: { role: Role }; answer: { done: true } };
  'DELETE people/:id': { answer: { done: true } };
  'DELETE invitations/:id': { answer: { done: true } };
  'GET activity': { query: { before?: string }; answer: { lines: ActivityLine[]; more: boolean } };
}
export type AccountRoute = keyof AccountEndpoints;
/** What is sent with a call: what its path leaves open, its query, its body. */
export type AccountInput<R extends AccountRoute> = Open<R> & Omit<AccountEndpoints[R], 'answer'>;
type Open<R extends string> = R extends `${string}/:id` ? { readonly id: string } : object;
export type AccountAnswer<R extends AccountRoute> = AccountEndpoints[R]['answer'];
