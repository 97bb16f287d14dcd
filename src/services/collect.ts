/**
 * All bytes of a stream, up to a limit. @param tooMany made and thrown where more come; the stream is not read further.
 * @throws TypeError for a stream of anything but bytes.
 */
export async function collect(
  stream: AsyncIterable<unknown>,
  most: number,
  tooMany: () => Error,
): Promise<Buffer> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of stream) {
    if (!(chunk instanceof Uint8Array)) throw new TypeError('a stream of bytes was expected');
    size += chunk.length;
    if (size > most) throw tooMany();
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}
