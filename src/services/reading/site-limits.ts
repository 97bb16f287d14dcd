import { limitText } from '../../core/limits';
import { BeyondLimit } from '../errors';

/** What a site may be: each refusal says which limit, and what helps. */
export const tooMany = () =>
  new BeyondLimit(
    'siteFiles',
    `The site holds more than ${limitText('siteFiles')}. Leave out backups and caches, then pack it again.`,
  );
export const tooLarge = (name: string) =>
  new BeyondLimit(
    'siteFile',
    `"${name}" is larger than ${limitText('siteFile')}. Leave it out of the site's folder, or link to it from elsewhere.`,
  );
export const tooMuch = () =>
  new BeyondLimit(
    'siteUnpacked',
    `Unpacked, the site is larger than ${limitText('siteUnpacked')}. Nothing was kept. Leave out videos and backups, then try again.`,
  );
