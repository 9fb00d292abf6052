import { bytesOf, decodeDhcp, encodeDhcp, type MessageToSend } from '../src/bringup/dhcp/index.js';

/** A message of DHCP that is as it should be. */
export const plain: MessageToSend = {
  ...{ op: 2, hardwareType: 1, hops: 0, xid: 0x12345678, secs: 0, broadcast: false, clientAddress: '0.0.0.0', yourAddress: '192.0.2.50' },
  ...{ nextServer: '0.0.0.0', relay: '0.0.0.0', hardwareAddress: Uint8Array.of(2, 0, 0, 0, 0, 1), serverName: '', bootFile: '' },
  options: [{ code: 53, bytes: Uint8Array.of(2) }],
};
/** It as it goes over the wire. */
export const sent = (more: Partial<MessageToSend> = {}, longest?: number): Uint8Array => {
  const bytes = encodeDhcp({ ...plain, ...more }, longest);
  if (!bytes) throw new Error('does not fit');
  return bytes;
};
/** A message whose options are these bytes. */
export const withOptions = (...options: number[]): Uint8Array => Uint8Array.from([...sent().slice(0, 240), ...options]);
/** What is wrong with a message, with where it stands. */
export const problemsOf = (bytes: Uint8Array) => decodeDhcp(bytes).problems.map(({ offset, text }) => `${offset}: ${text}`);
/** The bytes of a text. */
export const text = (of: string) => [...bytesOf.text(of)];
