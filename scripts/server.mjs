// The built app on 127.0.0.1, as a process of its own: node scripts/server.mjs PORT
import http from 'node:http';
import next from 'next';
import { ROOT } from './lib.mjs';

const port = Number(process.argv[2]);
const hostname = '127.0.0.1';
const app = next({ dev: false, dir: ROOT, hostname, port });
const handle = app.getRequestHandler();
/** What the app answers to. Others end here: some cannot even be made into a request for it. */
const METHODS = new Set(['GET', 'HEAD', 'POST', 'PUT', 'DELETE', 'OPTIONS', 'PATCH']);
const REFUSED = {
  failure: {
    code: 'bad-request',
    says: 'The app’s own server could not make sense of what the page asked (there is no such method).',
    next: 'Reload the page.',
    details: { why: 'there is no such method' },
  },
};

await app.prepare();
const server = http.createServer((request, response) => {
  if (METHODS.has(request.method ?? '')) return void handle(request, response);
  response
    .writeHead(405, {
      'Content-Type': 'application/json',
      Allow: [...METHODS].join(', '),
      'X-Content-Type-Options': 'nosniff',
    })
    .end(JSON.stringify(REFUSED));
});
// A pack of many gigabytes may take its time.
server.requestTimeout = 0;
server.listen(port, hostname);
