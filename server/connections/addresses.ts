/** Which addresses a call may go to: none of this machine or of a private network unless an administrator allows it. */
import { lookup } from 'node:dns/promises';
import { BlockList, isIP } from 'node:net';

const inside = new BlockList();
for (const [net, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['224.0.0.0', 3],
] as const)
  inside.addSubnet(net, bits, 'ipv4');
for (const [net, bits] of [
  ['::', 127],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  inside.addSubnet(net, bits, 'ipv6');

/** An IPv4 address written as an IPv6 one is judged by what it stands for. */
const plain = (address: string): string => address.replace(/^::ffff:(?=\d+\.\d+\.\d+\.\d+$)/i, '');

export const isInside = (address: string): boolean => {
  const known = plain(address);
  return inside.check(known, isIP(known) === 6 ? 'ipv6' : 'ipv4');
};

/**
 * The address that a host stands for, looked up once, so that the call goes where the look-up pointed.
 * @throws when the host is unknown or one of its addresses is not allowed
 */
export async function allowedAddress(host: string, mayBeInside: boolean): Promise<{ address: string; family: number }> {
  const name = host.replace(/^\[|\]$/g, '');
  const found = isIP(name) ? [{ address: name, family: isIP(name) }] : await lookup(name, { all: true });
  if (found.length === 0) throw new Error(`${host} has no address`);
  if (!mayBeInside && found.some(one => isInside(one.address))) throw new NotAllowed(host);
  return found[0];
}

export class NotAllowed extends Error {
  constructor(host: string) {
    super(`${host} is an address of a private network, which this connection is not allowed to call`);
  }
}
