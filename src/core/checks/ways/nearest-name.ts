/** The one file of those that is called the same but for its folder, its ending or small and capital letters; nothing where there are several. */
export function nearestName(wanted: string, files: readonly string[]): string | undefined {
  const name = bare(wanted);
  if (!name) return undefined;
  const alike = files.filter((f) => bare(f) === name);
  return alike.length === 1 ? alike[0] : undefined;
}

const bare = (path: string): string =>
  path
    .toLowerCase()
    .replace(/\/$/, '')
    .replace(/\/?index\.\w+$/, '')
    .replace(/\.\w+$/, '')
    .split('/')
    .pop() ?? '';
