import { expect, test } from '@playwright/test';
import { X509Certificate } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import http from 'node:http';
import https from 'node:https';
import type { AddressInfo, Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ownCertificate, tlsDoor, trustDoor } from '../scripts/lib/tls.mjs';

const folder = mkdtempSync(join(tmpdir(), 'vanner-tls-'));
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));
const portOf = (s: Server): number => (s.address() as AddressInfo).port;

test('makes an authority that signs for the shop’s addresses, once, and anew for others', async () => {
  const made = await ownCertificate(['192.0.2.7', 'localhost'], folder);
  const authority = new X509Certificate(made.authority);
  const server = new X509Certificate(made.cert);
  expect(authority.ca).toBe(true);
  expect(server.verify(authority.publicKey)).toBe(true);
  expect(server.checkIP('192.0.2.7')).toBe('192.0.2.7');
  expect(server.checkHost('localhost')).toBe('localhost');
  expect(await ownCertificate(['localhost', '192.0.2.7'], folder)).toEqual(made);
  const other = await ownCertificate(['192.0.2.8'], folder);
  expect(other.authority).toBe(made.authority);
  expect(new X509Certificate(other.cert).checkIP('192.0.2.8')).toBe('192.0.2.8');
});

test('hands requests on with where they came from, and a phone the certificate and nothing else', async () => {
  const app = http.createServer((req, res) => res.end(`${req.headers['x-forwarded-proto']} ${req.headers['host']} ${req.url}`));
  await new Promise<void>((done) => app.listen(0, '127.0.0.1', done));
  const { key, cert, authority } = await ownCertificate(['127.0.0.1'], folder);
  const door = await tlsDoor({ key, cert, port: 0, host: '127.0.0.1', appPort: portOf(app) });
  const page = await trustDoor({ authority, port: 0, host: '127.0.0.1', address: 'https://127.0.0.1' });
  const said = await new Promise<string>((done, fail) =>
    https
      .get({ host: '127.0.0.1', port: portOf(door), path: '/jobs?x=1', ca: authority }, (res) => {
        let text = '';
        res.on('data', (d) => (text += String(d)));
        res.on('end', () => done(text));
      })
      .on('error', fail),
  );
  expect(said).toBe(`https 127.0.0.1:${portOf(door)} /jobs?x=1`);
  const crt = await fetch(`http://127.0.0.1:${portOf(page)}/vanner-shop.crt`);
  expect(await crt.text()).toBe(authority);
  const told = await (await fetch(`http://127.0.0.1:${portOf(page)}/server.key`)).text();
  expect(told).toContain('Once on each phone');
  expect(told).not.toContain('PRIVATE');
  for (const s of [app, door, page]) s.close();
});
