import net from 'node:net';

/** Whether nothing listens on a loopback port. */
export function portFree(port) {
  return new Promise((resolve) => {
    const server = net.createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });
}

/** Any free loopback port. */
export function anyPort() {
  return new Promise((resolve, reject) => {
    const server = net.createServer();
    server.once('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}

/** The first free port from `wanted` on. */
export async function portFrom(wanted) {
  for (let port = wanted; port < Math.min(65_536, wanted + 200); port += 1) if (await portFree(port)) return port;
  return anyPort();
}
