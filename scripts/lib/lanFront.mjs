import { createServer as createHttp } from 'node:http';
import { createServer as createHttps } from 'node:https';
import { createServer as createTcp } from 'node:net';
import { hostname, networkInterfaces } from 'node:os';

import { createProxyServer } from 'httpxy';

import { joinPage, wrongNamePage } from './lanPages.mjs';

/*
 * What phones in the same network reach: one port that speaks TLS, hands everything on to the server on loopback, and says on plain
 * http, and under any other name, how to come in.
 */

/** The first byte of a TLS greeting (RFC 8446, 5.1: content type handshake). */
const TLS_GREETING = 22;

/** The names and IPv4 addresses by which this host is reached in its network. */
export function namesOfHost() {
  const name = hostname().toLowerCase();
  const bare = name.split('.')[0] ?? name;
  const addresses = Object.values(networkInterfaces()).flatMap((each) =>
    (each ?? []).filter(({ family, internal }) => family === 'IPv4' && !internal).map(({ address }) => address)
  );
  return { names: [...new Set([`${bare}.local`, name])], addresses };
}

/**
 * @typedef {{ key: string, cert: string, authority: string, until: Date, fingerprint: string }} Certificates
 * @param {{ port: number, listen: string, target: string, names: readonly string[], addresses: readonly string[], preferred?: string, tls: Certificates }} options
 *   `preferred`: the name that people are told; an address that every phone finds where none is given
 * @returns {Promise<{ address: string, stop: () => Promise<void> }>} the address that is told to people
 */
export async function startFront({ port, listen, target, names, addresses, preferred, tls }) {
  const hosts = new Set([...names, ...addresses].map((name) => `${name}:${port}`));
  const address = `https://${preferred ?? addresses[0] ?? names[0]}:${port}`;
  const told = { address, others: [...names, ...addresses].map((name) => `https://${name}:${port}`), ...tls };
  const proxy = createProxyServer({ target, ws: false });
  const sendPage = (
    /** @type {import('node:http').ServerResponse} */ res,
    /** @type {number} */ code,
    /** @type {string} */ html
  ) => {
    res.writeHead(code, {
      'content-type': 'text/html; charset=utf-8',
      'cache-control': 'no-store',
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; img-src data:",
      'referrer-policy': 'no-referrer'
    });
    res.end(html);
  };
  const sendAuthority = (/** @type {import('node:http').ServerResponse} */ res) => {
    res.writeHead(200, {
      'content-type': 'application/x-x509-ca-cert',
      'content-disposition': 'attachment; filename="baumkin.crt"',
      'cache-control': 'no-store'
    });
    res.end(tls.authority);
  };

  /** @type {import('node:http').RequestListener} */
  const plain = async (req, res) => {
    if (req.url?.startsWith('/baumkin.crt')) sendAuthority(res);
    else sendPage(res, 200, await joinPage(told));
  };
  /** @type {import('node:http').RequestListener} */
  const secure = async (req, res) => {
    if (!hosts.has((req.headers.host ?? '').toLowerCase())) return sendPage(res, 421, wrongNamePage(told));
    if (req.url === '/join') return sendPage(res, 200, await joinPage(told));
    if (req.url === '/baumkin.crt') return sendAuthority(res);
    // What a client says of itself in these counts for nothing.
    for (const name of Object.keys(req.headers)) if (name.startsWith('x-forwarded-')) delete req.headers[name];
    Object.assign(req.headers, {
      'x-forwarded-proto': 'https',
      'x-forwarded-host': req.headers.host,
      'x-forwarded-for': req.socket.remoteAddress
    });
    await proxy.web(req, res).catch(() => {
      if (!res.headersSent) res.writeHead(502);
      res.end();
    });
  };
  const https = createHttps(
    { key: tls.key, cert: tls.cert, minVersion: 'TLSv1.2' },
    (req, res) => void secure(req, res)
  );
  const http = createHttp((req, res) => void plain(req, res));
  const front = createTcp((socket) => {
    socket.on('error', () => socket.destroy());
    socket.once('data', (first) => {
      socket.pause();
      socket.unshift(first);
      (first[0] === TLS_GREETING ? https : http).emit('connection', socket);
      process.nextTick(() => socket.resume());
    });
  });
  /** @type {Set<import('node:net').Socket>} */
  const open = new Set();
  front.on('connection', (socket) => {
    open.add(socket);
    socket.on('close', () => open.delete(socket));
  });
  await new Promise((resolve, reject) => front.once('error', reject).listen(port, listen, () => resolve(undefined)));
  return {
    address,
    stop: async () => {
      for (const socket of open) socket.destroy();
      await new Promise((resolve) => front.close(resolve));
      proxy.close();
    }
  };
}
