import { randomBytes } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { type LimitName, limits, limitText } from '../../core/limits';
import { BeyondLimit } from '../errors';

/**
 * Takes an upload to the disk as it comes, hands its file to whoever needs it, and throws it away afterwards: nothing of it is ever
 * whole in memory. @throws Refusal when it is larger than the limit.
 */
export async function withUpload<T>(
  body: AsyncIterable<Uint8Array>,
  limit: LimitName,
  work: (upload: { readonly file: string }) => Promise<T>,
): Promise<T> {
  const dir = join(tmpdir(), `stall-upload-${randomBytes(8).toString('hex')}`);
  await mkdir(dir, { mode: 0o700 });
  try {
    const file = join(dir, 'upload');
    await pipeline(Readable.from(upTo(body, limit)), createWriteStream(file, { mode: 0o600 }));
    return await work({ file });
  } finally {
    await rm(dir, { recursive: true, force: true });
  }
}

async function* upTo(body: AsyncIterable<Uint8Array>, limit: LimitName): AsyncGenerator<Uint8Array> {
  let size = 0;
  for await (const chunk of body) {
    size += chunk.length;
    if (size > limits[limit].most)
      throw new BeyondLimit(
        limit,
        `The file is larger than ${limitText(limit)}. Leave out videos and backups, then pack it again.`,
      );
    yield chunk;
  }
}
