import { type ChildProcess, spawn } from 'node:child_process';
import { heard } from './installation';

/** Answers with BODY whatever it is asked; "/4000" with so many bytes of nothing. */
const program = `
  const body = Buffer.from(process.env.BODY);
  const server = require('node:http').createServer((request, response) => {
    const bytes = Number(request.url.slice(1));
    const sent = bytes > 0 ? Buffer.alloc(bytes) : body;
    response.writeHead(200, {
      'content-type': 'application/json; charset=utf-8',
      'content-length': sent.length,
    });
    response.end(sent);
  });
  server.listen(Number(process.env.PORT), '127.0.0.1', () => console.log('ready'));
`;

/** Node.js and nothing else, in a process of its own: what ours is held against. */
export async function bareServer(port: number, body: string): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['-e', program], {
    env: { ...process.env, BODY: body, PORT: String(port) },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await heard(child, /ready/);
  return child;
}
