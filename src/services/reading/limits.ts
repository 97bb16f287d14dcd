/** What a site may be. Each limit has its own sentence, with the figure in it. */
export const limits = {
  files: 50_000,
  fileBytes: 64 * 1024 * 1024,
  totalBytes: 1024 * 1024 * 1024,
} as const;

export const tooMany = `The site holds more than ${limits.files.toLocaleString('en')} files. Leave out backups and caches, then pack it again.`;
export const tooLarge = (name: string): string =>
  `"${name}" is larger than ${limits.fileBytes / 1024 / 1024} MB. Leave it out of the site's folder, or link to it from elsewhere.`;
export const tooMuch = `Unpacked, the site is larger than ${limits.totalBytes / 1024 / 1024} MB. Nothing was kept. Leave out videos and backups, then try again.`;
