/** The body of an upload, as its bytes come; nothing comes where it has none. */
export async function* bytesOf(request: Request): AsyncGenerator<Uint8Array> {
  const reader = request.body?.getReader();
  if (!reader) return;
  try {
    for (let next = await reader.read(); !next.done; next = await reader.read()) yield next.value;
  } finally {
    // Whoever stops early wants nothing more of it.
    await reader.cancel().catch(() => {});
  }
}
