import { kinds } from '../src/core/placement/kinds';

/** What the build puts into the browser's scripts (tools/widget-kinds.mjs). */
const named = (script: 'first' | 'more'): string[] =>
  kinds.filter((k) => k.built && k.script === script).map((k) => k.kind);

Object.assign(globalThis, { STALL_FIRST_KINDS: named('first'), STALL_MORE_KINDS: named('more') });
