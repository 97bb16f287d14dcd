import type { Mend } from '../../finding';
import { go, onPage, type Rule } from '../../rule';

/** The page tells browsers to run no script of the shop. */
export const policyForbids: Rule = {
  name: 'policy-forbids',
  about: "A content security policy of the site that forbids the shop's script, its requests or its frames.",
  weight: 'sale',
  reads: ['pages'],
  *find(s) {
    const origin = originOf(s.site.scriptUrl);
    const shop = originOf(s.site.shopUrl);
    for (const p of s.pages) {
      if (!p.scripts.length && !p.widgets.some((w) => w.spelling === 'frame')) continue;
      const rules = [...p.policies, ...s.site.policies];
      const wants = [
        ...(p.scripts.length
          ? ([
              ['script-src', origin],
              ['connect-src', shop],
              ['img-src', shop],
            ] as const)
          : []),
        ...(p.widgets.some((w) => w.spelling === 'frame') ? ([['frame-src', shop]] as const) : []),
      ];
      const missing = wants.filter(([directive, host]) =>
        rules.some((rule) => !allows(rule, directive, host)),
      );
      if (missing.length === 0) continue;
      const lines = [...new Set(missing.map(([d, host]) => `${d} ${host}`))];
      const mend: Mend = go('Say how', 'site', {}, `Add to the policy of your site: ${lines.join('; ')}`);
      yield {
        about: p.path,
        place: onPage(p),
        title: `The site's policy forbids ${missing.some(([d]) => d === 'script-src') ? "the shop's script" : missing.map(([d]) => d).join(', ')}`,
        meets: 'Browsers stop it without a word: a plain link is all that is left.',
        facts: lines,
        mends: [{ ...mend, label: 'What to add' }],
      };
    }
  },
};

/** Which directive is asked where the one is not there (Content Security Policy Level 3, 6.1). */
const fallback: Readonly<Record<string, readonly string[]>> = {
  'script-src': ['script-src-elem', 'script-src', 'default-src'],
  'connect-src': ['connect-src', 'default-src'],
  'img-src': ['img-src', 'default-src'],
  'frame-src': ['frame-src', 'child-src', 'default-src'],
};

/** Whether a policy lets an origin in (Content Security Policy Level 3, 6.7.2.6 to 8, hosts without paths). */
export function allows(policy: string, directive: string, origin: string): boolean {
  const parts = new Map(
    policy.split(';').flatMap((d): [string, string[]][] => {
      const [name = '', ...sources] = d.trim().split(/\s+/);
      return name ? [[name.toLowerCase(), sources]] : [];
    }),
  );
  const asked = (fallback[directive] ?? [directive]).find((d) => parts.has(d));
  if (!asked) return true;
  const url = new URL(origin);
  return (parts.get(asked) ?? []).some((source) => matches(source.toLowerCase(), url));
}

function matches(source: string, url: URL): boolean {
  if (source === '*') return true;
  if (/^[a-z]+:$/.test(source)) return source === url.protocol;
  const m = /^(?:([a-z]+):\/\/)?(\*|\*\.[^:/]+|[^:/]+)(?::(\d+|\*))?(?:\/.*)?$/.exec(source);
  if (!m) return false;
  const [, scheme, host = '', port] = m;
  if (scheme && `${scheme}:` !== url.protocol && !(scheme === 'http' && url.protocol === 'https:'))
    return false;
  if (port && port !== '*' && port !== (url.port || (url.protocol === 'https:' ? '443' : '80'))) return false;
  if (!port && url.port) return false;
  if (host === '*') return true;
  return host.startsWith('*.') ? url.hostname.endsWith(host.slice(1)) : host === url.hostname;
}

function originOf(url: string): string {
  try {
    return new URL(url).origin;
  } catch {
    return 'https://shop.invalid';
  }
}
