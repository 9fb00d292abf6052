/** IPv4 in IPv6 clothing, as dual-stack sockets report it. */
export const plainAddress = (address: string): string => address.replace(/^::ffff:/, '');

export const isLoopback = (address: string): boolean => address === '::1' || address.startsWith('127.');
