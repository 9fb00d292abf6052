import { RTCPeerConnection } from 'werift';

export interface DatagramEcho {
  answer: string;
  close: () => Promise<void>;
}

/**
 * Answers a browser's offer and echoes every message of its data channel. The channel is unordered and never retransmits, so
 * that each message is one UDP datagram there and one back.
 * @param port first of two UDP ports to listen on
 * @param relayed port of a simulated line for a port of ours, where one is in between
 */
export async function echoDatagrams(
  offer: string,
  port: number,
  relayed: ((port: number) => number) | null,
  ownAddress: string | null,
): Promise<DatagramEcho> {
  const peer = new RTCPeerConnection({
    iceServers: [],
    icePortRange: [port, port + 1], // the library wants two
    iceUseIpv6: false,
    ...(ownAddress ? { iceAdditionalHostAddresses: [ownAddress] } : {}),
  });
  let echoed = 0;
  peer.onDataChannel.subscribe((channel) => {
    channel.onMessage.subscribe((message) => {
      // 200 are wanted; a page that sends more is not served
      if (echoed++ < 2000 && message.length <= 1200) channel.send(message);
    });
  });
  // behind a line the browser's own addresses are not told to us, so that nothing goes past the line
  const sdpOfBrowser = relayed ? offer.replace(/^a=candidate:.*\r\n/gm, '') : offer;
  await peer.setRemoteDescription({ type: 'offer', sdp: sdpOfBrowser });
  await peer.setLocalDescription(await peer.createAnswer());
  await gathered(peer);
  const sdp = peer.localDescription?.sdp ?? '';
  return { answer: relayed ? readdressed(sdp, relayed) : sdp, close: () => peer.close() };
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
