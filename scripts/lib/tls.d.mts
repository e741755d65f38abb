import type { Server } from 'node:net';

export function ownAddresses(): string[];
export function ownCertificate(addresses: readonly string[], folder?: string): Promise<{ key: string; cert: string; authority: string }>;
export function tlsDoor(options: { key: string; cert: string; port: number; host: string; appPort: number }): Promise<Server>;
export function trustDoor(options: { authority: string; port: number; host: string; address: string }): Promise<Server>;
