import { request } from 'node:http';

/**
 * Node's fetch does not resolve names under .localhost (RFC 6761 says they are loopback); browsers do. A small POST
 * that resolves them.
 */
export function post(url: string, headers: Record<string, string>, body: string): Promise<number> {
  const to = new URL(url);
  const local = to.hostname === 'localhost' || to.hostname.endsWith('.localhost');
  return new Promise((resolve, reject) => {
    const req = request(
      {
        host: local ? '127.0.0.1' : to.hostname,
        port: to.port,
        path: to.pathname + to.search,
        method: 'POST',
        timeout: 5000,
        headers: { host: to.host, 'content-length': Buffer.byteLength(body), ...headers },
      },
      (res) => {
        res.resume();
        res.on('end', () => resolve(res.statusCode ?? 0));
      },
    );
    req.on('timeout', () => req.destroy(new Error('no answer in 5 seconds')));
    req.on('error', reject);
    req.end(body);
  });
}
