import { createServer } from 'node:http';
import { WebSocketServer } from 'ws';

/**
 * A device on a wire: a server on loopback that sends lines of text to whoever listens (WebSocket), as a bridge program
 * would for a device on Bluetooth or a serial port, and that can be told what to do (POST, JSON).
 * @param {{ port: number, page: string, told: (path: string, body: Record<string, unknown>) => void }} options
 */
export async function wire({ port, page, told }) {
  const server = createServer(async (request, response) => {
    if (request.method === 'POST') {
      let text = '';
      for await (const chunk of request) text += chunk;
      try {
        told(request.url ?? '/', text === '' ? {} : JSON.parse(text));
        response.writeHead(204).end();
      } catch (error) {
        response.writeHead(400).end(String(error));
      }
      return;
    }
    response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(page);
  });
  const sockets = new WebSocketServer({ server });
  await new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve(undefined));
  });
  return {
    url: `ws://127.0.0.1:${port}`,
    /** @param {string} line */
    send(line) {
      for (const socket of sockets.clients) socket.send(line);
    },
    async stop() {
      for (const socket of sockets.clients) socket.terminate();
      sockets.close();
      await new Promise((resolve) => server.close(resolve));
    }
  };
}
