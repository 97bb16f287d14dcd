// Runs every check: lint, types, layers, unit tests, browser tests. Last line: 'N passed, N failed'.
import { spawn } from 'node:child_process';
import { mkdtemp, readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const dir = await mkdtemp(join(tmpdir(), 'stall-report-'));
const env = {
  ...process.env,
  ASTRO_TELEMETRY_DISABLED: '1',
  CI: process.env.CI ?? '',
};
let passed = 0;
let failed = 0;
/** What failed, by name: told again at the end, where it is not looked for among thousands of lines. */
const names = [];

const run = (command, args, more = {}) =>
  new Promise((done) => {
    const child = spawn(command, args, { stdio: 'inherit', env: { ...env, ...more } });
    child.on('close', (code) => done(code ?? 1));
    child.on('error', () => done(1));
  });

async function check(name, command, args) {
  const began = Date.now();
  process.stdout.write(`\n== ${name}\n`);
  const code = await run(command, args);
  if (code === 0) passed++;
  else {
    failed++;
    names.push(name);
  }
  process.stdout.write(
    `== ${name}: ${code === 0 ? 'passed' : 'FAILED'} in ${Math.round((Date.now() - began) / 1000)} s\n`,
  );
}

/** Counts the tests of a reporter's JSON; a report that is missing or empty is a failure. */
async function count(file, read) {
  const counts = await readFile(file, 'utf8').then(
    (text) => read(JSON.parse(text)),
    () => undefined,
  );
  if (!counts || counts.passed + counts.failed === 0) {
    failed++;
    names.push(`${file}: no test was counted`);
  }
  passed += counts?.passed ?? 0;
  failed += counts?.failed ?? 0;
  names.push(...(counts?.names ?? []));
}

/** Titles of the browser tests that failed, or passed only when they were tried again. */
const unexpectedIn = (suite) => [
  ...suite.specs
    .filter((spec) => spec.tests.some((t) => t.status === 'unexpected' || t.status === 'flaky'))
    .map((spec) => `${suite.file}: ${spec.title}`),
  ...(suite.suites ?? []).flatMap(unexpectedIn),
];

const bin = (name) => join('node_modules/.bin', name);
await check('format', bin('biome'), ['format', '.']);
await check('lint', bin('biome'), ['lint', '.', '--error-on-warnings']);
await check('layers', process.execPath, ['tools/layers.mjs']);
await check('dependencies', process.execPath, ['tools/dependencies.mjs']);
// Each keeps one core busy; what the recipes ask of the compiler fits in behind the build.
await Promise.all([
  check('types', process.execPath, ['tools/types.mjs']),
  check('build', process.execPath, ['tools/build.mjs']).then(() =>
    check('recipes', bin('vitest'), ['run', '--project', 'recipes', '--reporter=dot']),
  ),
]);
process.stdout.write('\n== unit tests\n');
const unit = join(dir, 'unit.json');
await run(bin('vitest'), [
  'run',
  ...['--project', 'plain', '--project', 'dom'],
  ...['--reporter=dot', '--reporter=json', `--outputFile.json=${unit}`],
]);
await count(unit, (r) => ({
  passed: r.numPassedTests,
  // A file that does not load has no tests to fail.
  failed: r.success ? 0 : Math.max(1, r.numFailedTests),
  names: r.testResults
    .filter((file) => file.status !== 'passed')
    .flatMap((file) => [
      `${file.name}: ${file.message}`,
      ...file.assertionResults.filter((t) => t.status === 'failed').map((t) => t.fullName),
    ]),
}));
process.stdout.write('\n== browser tests\n');
// Groups stand on installations of their own (e2e/support/groups.ts): side by side they take half the time.
const browser = ['ours', 'sales', 'strangers'].map((only) => ({
  only,
  report: join(dir, `browser-${only}.json`),
}));
await Promise.all(
  browser.map(({ only, report }) =>
    run(bin('playwright'), ['test'], { STALL_E2E: only, STALL_REPORT: report }),
  ),
);
for (const { report } of browser)
  await count(report, ({ stats, errors, suites }) => ({
    passed: stats.expected,
    failed: stats.unexpected + stats.flaky + errors.length,
    names: [...suites.flatMap(unexpectedIn), ...errors.map((e) => String(e.message).split('\n')[0])],
  }));
if (names.length > 0) process.stdout.write(`\nFailed:\n${names.map((name) => `  ${name}\n`).join('')}`);

process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);
