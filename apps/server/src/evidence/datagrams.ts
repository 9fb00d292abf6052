import { RTCPeerConnection } from 'werift';

export interface DatagramEcho {
  answer: string;
  close: () => Promise<void>;
}

/**
 * Answers a browser's offer and echoes every message of its data channel. The channel is unordered and never retransmits, so
 * that each message is one UDP datagram there and one back.
 * @param port first of two UDP ports to listen on
 * @param peer address the page comes from; no other is sent to
 * @param relayed port of a simulated line for a port of ours, where one is in between
 */
export async function echoDatagrams(
  offer: string,
  port: number,
  relayed: ((port: number) => number) | null,
  ownAddress: string | null,
  peer: string,
): Promise<DatagramEcho> {
  const connection = new RTCPeerConnection({
    iceServers: [],
    icePortRange: [port, port + 1], // the library wants two
    iceUseIpv6: false,
    // nothing is sent anywhere but to where the page itself comes from, whatever the offer or a forged packet says [RFC 7675]
    iceFilterCandidatePair: (pair) => pair.remoteCandidate.host === peer,
    ...(ownAddress ? { iceAdditionalHostAddresses: [ownAddress] } : {}),
  });
  let echoed = 0;
  connection.onDataChannel.subscribe((channel) => {
    channel.onMessage.subscribe((message) => {
      // 200 are wanted; a page that sends more is not served
      if (echoed++ < 2000 && message.length <= 1200) channel.send(message);
    });
  });
  // behind a line the browser's own addresses are not told to us, so that nothing goes past the line
  const sdpOfBrowser = ownCandidates(offer, relayed ? null : peer);
  try {
    await connection.setRemoteDescription({ type: 'offer', sdp: sdpOfBrowser });
    await connection.setLocalDescription(await connection.createAnswer());
    await gathered(connection);
  } catch (error) {
    await connection.close().catch(() => undefined);
    throw error;
  }
  const sdp = connection.localDescription?.sdp ?? '';
  return { answer: relayed ? readdressed(sdp, relayed) : sdp, close: () => connection.close() };
}

/** Candidates of an offer that are read at most. */
const mostCandidates = 8;

/** The offer with no candidates but those of one address; with none of them where there is none. */
export function ownCandidates(offer: string, address: string | null): string {
  let kept = 0;
  return offer
    .split(/\r?\n/)
    .filter((row) => {
      if (!row.startsWith('a=candidate:')) return true;
      const [, , transport, , host, port] = row.split(' ');
      const own = transport?.toLowerCase() === 'udp' && host === address && Number(port) >= 1024 && Number(port) <= 65_535;
      return own && ++kept <= mostCandidates;
    })
    .join('\r\n');
}

const gathered = (peer: RTCPeerConnection): Promise<void> =>
  new Promise((resolve) => {
    if (peer.iceGatheringState === 'complete') return resolve();
    const timer = setTimeout(resolve, 1500);
    peer.iceGatheringStateChange.subscribe((state) => {
      if (state !== 'complete') return;
      clearTimeout(timer);
      resolve();
    });
  });

/** The answer with the line's port in place of the server's own: only the loopback candidate stays, at the line's port. */
export function readdressed(sdp: string, relayed: (port: number) => number): string {
  return sdp
    .split('\r\n')
    .flatMap((row) => {
      if (!row.startsWith('a=candidate:')) return [row];
      const parts = row.split(' ');
      if (parts[2]?.toLowerCase() !== 'udp' || parts[4] !== '127.0.0.1') return [];
      parts[5] = String(relayed(Number(parts[5])));
      return [parts.slice(0, 8).join(' ')];
    })
    .join('\r\n');
}
