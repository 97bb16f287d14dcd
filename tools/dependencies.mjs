// What the packages that are installed bring with them: licences, scripts that run when they are installed, and known faults (advisories).
// Reads package-lock.json, which names every package; `--list` prints all of them.
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import satisfies from 'spdx-satisfies';

/** Licences (SPDX) that leave Green Stall as free as it is, whether linked or read beside it. */
const fine = [
  ...[
    'MIT',
    'MIT-0',
    'ISC',
    '0BSD',
    'BSD-2-Clause',
    'BSD-3-Clause',
    'Apache-2.0',
    'BlueOak-1.0.0',
    'Unlicense',
    'CC0-1.0',
    'Zlib',
  ],
  // Fonts, data, and a parser's code of older date.
  ...['OFL-1.1', 'Bitstream-Vera', 'CC-BY-3.0', 'CC-BY-4.0', 'Python-2.0'],
  // Used as they are and replaceable: a file's changes stay open (MPL), a library that is linked at run time (LGPL: libvips).
  ...['MPL-2.0', 'LGPL-3.0-or-later'],
];

/** Packages whose manifest says no SPDX expression, with what their own files say. */
const saidElsewhere = {
  'zod-to-ts': 'MIT',
  'png-js': 'MIT',
  contextify: 'MIT',
  nwmatcher: 'MIT',
  'dejavu-fonts-ttf': 'Bitstream-Vera',
};

/** Packages whose install script is known, and what it does. A new one is to be read before it is named here. */
const scripts = {
  esbuild: 'checks that the binary for this machine is there, and fetches it where it is not',
  sharp: 'checks that libvips is there, and builds it where it is not',
  contextify: 'builds itself; for a test only, optional, and not built by the Node.js that is asked for',
};

/** Known faults that do not reach Green Stall: the advisory's id, and why. */
const outOfReach = {};

/** Name of a package by its place in the lock file: "node_modules/a/node_modules/@b/c" is "@b/c". */
export const nameOf = (place) => place.replace(/^.*node_modules\//, '');

/** @returns a sentence for each package that must not be there as it is */
export function faultsIn(lock) {
  return packagesIn(lock).flatMap(({ name, version, license, hasInstallScript }) => [
    ...(isFine(saidElsewhere[name] ?? license)
      ? []
      : [
          `${name} ${version}: its licence is "${license ?? 'not said'}". Read it, then name it in tools/dependencies.mjs or leave the package out.`,
        ]),
    ...(hasInstallScript && !(name in scripts)
      ? [
          `${name} ${version} runs a script when it is installed. Read it, then name it in tools/dependencies.mjs or leave the package out.`,
        ]
      : []),
  ]);
}

export const packagesIn = (lock) =>
  Object.entries(lock.packages)
    .filter(([place]) => place !== '')
    .map(([place, p]) => ({ name: nameOf(place), ...p }));

function isFine(license) {
  if (typeof license !== 'string') return false;
  // Older manifests write their own words for what SPDX writes.
  const expression = license.replace(/ or /g, ' OR ').replace('MIT/X11', 'MIT');
  try {
    return satisfies(expression, fine);
  } catch {
    return false;
  }
}

/**
 * Known faults as `npm audit --json` tells them. @returns the grave ones that reach us, or nothing where the registry told none: then
 * nobody knows.
 */
export function graveIn(answer) {
  if (!answer || answer.error || answer.statusCode || !answer.vulnerabilities) return undefined;
  return Object.values(answer.vulnerabilities)
    .filter((v) => ['high', 'critical'].includes(v.severity))
    .flatMap((v) => v.via.filter((via) => typeof via === 'object'))
    .filter((via) => !(String(via.source) in outOfReach))
    .map((via) => `${via.name}: ${via.title} (${via.severity}, ${via.url})`);
}

function main() {
  const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'));
  const all = packagesIn(lock);
  if (process.argv.includes('--list'))
    for (const p of all)
      process.stdout.write(
        `${p.name} ${p.version}  ${saidElsewhere[p.name] ?? p.license}${p.hasInstallScript ? '  runs a script' : ''}\n`,
      );
  const faults = faultsIn(lock);
  const { stdout } = spawnSync('npm', ['audit', '--json', '--omit=dev'], {
    encoding: 'utf8',
    timeout: 60_000,
  });
  const grave = graveIn(parsed(stdout));
  for (const fault of [...faults, ...(grave ?? [])]) process.stdout.write(`${fault}\n`);
  const known = grave
    ? `${grave.length} grave faults are known`
    : 'whether faults are known could not be asked: the registry does not answer that here';
  process.stdout.write(`${all.length} packages, ${faults.length} against the rules; ${known}\n`);
  process.exitCode = faults.length + (grave?.length ?? 0) > 0 ? 1 : 0;
}

function parsed(text) {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) main();
