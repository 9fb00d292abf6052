/** An option of a message, its pieces joined. */
export interface DhcpOption {
  code: number;
  bytes: Uint8Array;
  /** Of its code, of its first piece where it has several; from the first byte of the message. */
  offset: number;
}

/** Something wrong with a message, and where. */
export interface DhcpProblem {
  offset: number;
  text: string;
}

/** A message of DHCP or its older sister BOOTP, field by field [RFC 2131 section 2]. */
export interface DhcpMessage {
  /** 1 asks, 2 answers. */
  op: number;
  hardwareType: number;
  hops: number;
  /** Number by which answers are told from those to others. */
  xid: number;
  secs: number;
  /** Whether it is to be answered to everybody. */
  broadcast: boolean;
  clientAddress: string;
  yourAddress: string;
  nextServer: string;
  relay: string;
  /** As long as it says it is; mostly 6 bytes. */
  hardwareAddress: Uint8Array;
  /** Names in their fields; empty where those hold options, or nothing. */
  serverName: string;
  bootFile: string;
  /** In the order they stand: options, then the fields for the file and the server's name where those hold options too. */
  options: DhcpOption[];
}

/** Where fields begin, and how long the fields before the options are together with the four bytes that say what follows. */
export const at = {
  ...{ op: 0, hardwareType: 1, hardwareLength: 2, hops: 3, xid: 4, secs: 8, flags: 10, clientAddress: 12, yourAddress: 16 },
  ...{ nextServer: 20, relay: 24, hardwareAddress: 28, serverName: 44, bootFile: 108, cookie: 236, options: 240 },
} as const;
/** What says that options follow [RFC 2131 section 3]. */
export const cookie = 0x6382_5363;
/** A byte that fills up. */
export const pad = 0;
/** What says that no option follows. */
export const end = 255;
/** The option that says which other fields hold options. */
export const overload = 52;
