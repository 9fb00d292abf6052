import { RTCPeerConnection } from 'werift';

export interface DatagramEcho {
  answer: string;
  close: () => Promise<void>;
}

/**
 * Answers a browser's offer and echoes every message of its data channel. The channel is unordered and never retransmits, so
 * that each message is one UDP datagram there and one back.
 * @param port UDP port to listen on
 * @param advertised where the browser is told to send, if that is a simulated line instead
 */
export async function echoDatagrams(offer: string, port: number, advertised: { address: string; port: number } | null, ownAddress: string | null): Promise<DatagramEcho> {
  const peer = new RTCPeerConnection({
    iceServers: [],
    icePortRange: [port, port],
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
  await peer.setRemoteDescription({ type: 'offer', sdp: offer });
  await peer.setLocalDescription(await peer.createAnswer());
  await gathered(peer);
  const sdp = peer.localDescription?.sdp ?? '';
  return { answer: advertised ? readdressed(sdp, advertised) : sdp, close: () => peer.close() };
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

/** The answer with the line's address in place of the server's own candidates. */
export function readdressed(sdp: string, { address, port }: { address: string; port: number }): string {
  let kept = false;
  return sdp
    .split('\r\n')
    .flatMap((row) => {
      if (!row.startsWith('a=candidate:')) return [row];
      if (kept || !/ udp /i.test(row)) return [];
      kept = true;
      const parts = row.split(' ');
      parts[4] = address;
      parts[5] = String(port);
      return [parts.slice(0, 8).join(' ')];
    })
    .join('\r\n');
}
