export { CaptureReader, isCapture } from './reader.js';
export type { CapturedPacket, CaptureProblem, CaptureSink } from './packet.js';
export { datagramIn, ipv4At, ipv6Text, type Datagram } from './datagram.js';
