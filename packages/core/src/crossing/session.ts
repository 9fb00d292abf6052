import type { Codec } from '@underpass/contracts';
import { clientLimits, macroblocks, type ClientLimits } from '../screens/index.js';
import { scaleOf, type SettingValues } from '../settings/index.js';
import type { CrossingFacts } from './facts.js';
import { ownScreens, portFits } from './ports.js';

/** A screen as it has its pixels, and as the session fills it; sizes in px, refresh in Hz. */
export interface SessionScreen {
  nativeWidthPx: number;
  nativeHeightPx: number;
  widthPx: number;
  heightPx: number;
  refreshHz: number | null;
  scale: number;
}

/** The session as it would be negotiated: screens and their sizes, codec, transport. */
export interface Session {
  limits: ClientLimits;
  /** null where the endpoint's screens are not known. */
  native: readonly { widthPx: number; heightPx: number; refreshHz?: number | undefined; scale: number }[] | null;
  screens: SessionScreen[];
  /** Screens that stay dark because of a limit. */
  left: number;
  leftBecause: 'client' | 'pixels' | 'setting' | 'the same' | null;
  /** What takes no more pixels, where that is the limit: the kind of client, the graphics of the device, or the settings. */
  pixelsOf: 'client' | 'device' | 'setting';
  /** The first screen has more pixels than the client takes, and is shown smaller. */
  shrunk: boolean;
  activePixels: number;
  idlePixels: number;
  macroblocks: number;
  codec: Codec;
  /** The codec asked for, where the gateway does not pass it. */
  codecAsked: Codec;
  chroma444: boolean;
  transport: 'udp' | 'tcp';
  /** Over UDP by QUIC, whose first greeting is the encryption's too. */
  quic: boolean;
  transportBecause: 'setting' | 'udp does not pass' | 'gateway' | null;
  /** Over UDP as far as is known; whether it passes, nobody tried. */
  mayBeTcp: boolean;
  /** Linear part of the native size that is sent, 0 to 1, of the worst screen. */
  resolutionShare: number;
  /** Screens of different scales in a session that takes one: text has the wrong size on some. */
  mixedScales: boolean;
}

const assumedScreen = [{ widthPx: 1920, heightPx: 1080, refreshHz: 60, scale: 1 }];

/** What a session depends on, besides the settings. */
export type SessionFacts = Pick<CrossingFacts, 'endpoint' | 'gateway' | 'evidence'>;

/**
 * The session that would be negotiated: screens and sizes in px, codec and transport, by the limits of client, gateway and settings.
 */
export function sessionOf(facts: SessionFacts, s: SettingValues): Session {
  const { endpoint, gateway, evidence } = facts;
  const secondScreen = endpoint.clientKind === 'browser' && evidence.browser?.value.can.secondScreen === true;
  const base = clientLimits[endpoint.clientKind];
  const client = secondScreen ? { ...base, screens: 2, pixels: base.pixels * 2 } : base;
  const [device, allowed] = [endpoint.mostPixels ?? Infinity, s['screens.mostMegapixels'] * 1e6];
  const mostPixels = Math.min(client.pixels, device, allowed);
  const pixelsOf = mostPixels === client.pixels ? 'client' : mostPixels === device ? 'device' : 'setting';
  const limits = pixelsOf === 'client' ? client : { ...client, pixels: mostPixels };
  const native = evidence.screens?.value ?? (endpoint.screens ? ownScreens(endpoint.screens) : null);
  const all = native && native.length > 0 ? native : assumedScreen;
  const isSame = s['screens.arrange'] === 'the same';
  const wanted = isSame || s['screens.use'] === 'one' ? 1 : s['screens.most'];
  const screens: SessionScreen[] = [];
  let pixels = 0;
  let leftBecause: Session['leftBecause'] = null;
  let resolutionShare = 1;
  let shrunk = false;
  const scale = scaleOf(s['screens.scale']);
  const ports = evidence.screens ? [] : portFits(endpoint);
  for (const screen of all) {
    if (screens.length >= wanted) {
      leftBecause = isSame ? 'the same' : 'setting';
      break;
    }
    if (screens.length >= limits.screens) {
      leftBecause = 'client';
      break;
    }
    let { widthPx, heightPx } = screen;
    if (s['picture.resolution'] === 'fixed') {
      const fixed = s['picture.fixedSize'];
      const x = fixed.indexOf('x');
      widthPx = Number(fixed.slice(0, x));
      heightPx = Number(fixed.slice(x + 1));
    }
    const short = Math.min(widthPx, heightPx);
    if (short > s['picture.heldHeight']) {
      const factor = s['picture.heldHeight'] / short;
      widthPx = Math.round((widthPx * factor) / 2) * 2;
      heightPx = Math.round((heightPx * factor) / 2) * 2;
    }
    if (pixels + widthPx * heightPx > limits.pixels) {
      leftBecause = 'pixels';
      if (screens.length > 0) break;
      // one screen there always is: as large as the client takes
      const factor = Math.sqrt(limits.pixels / (widthPx * heightPx));
      widthPx = Math.floor((widthPx * factor) / 2) * 2;
      heightPx = Math.floor((heightPx * factor) / 2) * 2;
      shrunk = true;
    }
    pixels += widthPx * heightPx;
    resolutionShare = Math.min(resolutionShare, Math.max(heightPx, widthPx) / Math.max(screen.heightPx, screen.widthPx));
    // what its port does not carry falls to what it does; a screen that was measured says itself what it shows
    const fit = ports[screens.length];
    const refreshHz = fit && !fit.fits && fit.highestHz > 0 ? fit.highestHz : (screen.refreshHz ?? null);
    screens.push({
      nativeWidthPx: screen.widthPx,
      nativeHeightPx: screen.heightPx,
      widthPx,
      heightPx,
      refreshHz,
      scale: scale ?? screen.scale,
    });
  }
  let activePixels = 0;
  let blocks = 0;
  for (const screen of screens) {
    activePixels = Math.max(activePixels, screen.widthPx * screen.heightPx);
    blocks += macroblocks(screen.widthPx, screen.heightPx);
  }
  const asked = s['picture.codec'];
  const passes = gateway.codecs.includes(asked);
  const fallback: Codec = gateway.codecs.includes('h264') ? 'h264' : 'progressive';
  const udpKnownBlocked = evidence.datagrams?.value.passes === false;
  const transportBecause =
    s['transport.prefer'] === 'tcp' ? 'setting' : gateway.udp === false ? 'gateway' : udpKnownBlocked ? 'udp does not pass' : null;
  return {
    limits,
    native,
    screens,
    left: all.length - screens.length,
    leftBecause,
    pixelsOf,
    shrunk,
    activePixels,
    idlePixels: pixels - activePixels,
    macroblocks: blocks,
    codec: passes ? asked : fallback,
    codecAsked: asked,
    chroma444: s['picture.chroma'] === '4:4:4',
    transport: transportBecause ? 'tcp' : 'udp',
    quic: !transportBecause && s['transport.prefer'] === 'quic',
    transportBecause,
    mayBeTcp: transportBecause === null && evidence.datagrams === undefined,
    resolutionShare,
    mixedScales: limits.oneScale && !s['screens.oneScale'] && screens.some((screen) => screen.scale !== screens[0]?.scale),
  };
}
