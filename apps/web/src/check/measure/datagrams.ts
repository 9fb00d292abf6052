import type { Datagrams } from '@underpass/contracts';
import { interarrivalJitterMs } from '@underpass/core';
import { sleep } from './roundTrips.js';
import type { CheckSocket } from './socket.js';

const count = 200;
const everyMs = 10;
/** Where no datagram channel opens in this time, that is a fact of its own. */
const openWithinMs = 5000;

const gathered = (peer: RTCPeerConnection): Promise<void> =>
  new Promise((resolve) => {
    const timer = setTimeout(resolve, 1000);
    peer.onicegatheringstatechange = () => {
      if (peer.iceGatheringState !== 'complete') return;
      clearTimeout(timer);
      resolve();
    };
  });

/**
 * 200 small datagrams, echoed over an unordered data channel that never sends again. Where the channel does not open, UDP does
 * not pass and the loss stays unknown, never zero.
 */
export async function measureDatagrams(socket: CheckSocket): Promise<Datagrams | undefined> {
  if (typeof RTCPeerConnection === 'undefined') return undefined;
  const peer = new RTCPeerConnection({ iceServers: [] });
  try {
    const channel = peer.createDataChannel('datagrams', { ordered: false, maxRetransmits: 0 });
    channel.binaryType = 'arraybuffer';
    const opened = new Promise<boolean>((resolve) => {
      channel.onopen = () => resolve(true);
      setTimeout(() => resolve(false), openWithinMs);
    });
    await peer.setLocalDescription(await peer.createOffer());
    await gathered(peer);
    const answer = socket.next('answer', openWithinMs);
    socket.send({ type: 'offer', sdp: peer.localDescription?.sdp ?? '' });
    const sdp = (await answer)?.sdp;
    if (!sdp) return { passes: false };
    await peer.setRemoteDescription({ type: 'answer', sdp });
    if (!(await opened)) return { passes: false };
    return await echoAll(channel);
  } finally {
    peer.close();
  }
}

async function echoAll(channel: RTCDataChannel): Promise<Datagrams> {
  const sentAt: number[] = [];
  const trips: (number | undefined)[] = [];
  let overtaken = 0;
  let highest = -1;
  channel.onmessage = ({ data }) => {
    const at = performance.now();
    const n = new DataView(data as ArrayBuffer).getUint32(0);
    if (trips[n] !== undefined) return;
    trips[n] = at - (sentAt[n] ?? at);
    if (n < highest) overtaken++;
    highest = Math.max(highest, n);
  };
  for (let i = 0; i < count; i++) {
    const packet = new ArrayBuffer(100);
    new DataView(packet).setUint32(0, i);
    sentAt[i] = performance.now();
    channel.send(packet);
    await sleep(everyMs);
  }
  // the last ones may still be under way: wait as long as the slowest took, and half a second
  const slowest = Math.max(500, ...trips.filter((trip): trip is number => trip !== undefined));
  await sleep(Math.min(3000, slowest + 500));
  const came = trips.filter((trip): trip is number => trip !== undefined);
  return {
    passes: came.length > 0,
    sent: count,
    lost: count - came.length,
    overtaken,
    jitterMs: Math.round(interarrivalJitterMs(came) * 100) / 100,
  };
}
