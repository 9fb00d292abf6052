import type { PortKind, Screen } from '@underpass/contracts';
import { reducedBlanking } from './timing.js';

/** Usable data rate after line coding, Gbit/s [HDMI 1.4b and 2.0 specifications; VESA DisplayPort 1.4]; DVI single link is 165 MHz × 24 bit. */
export const portRateGbps: Record<PortKind, number> = {
  internal: Infinity,
  dvi: 3.96,
  'hdmi-1.4': 8.16,
  'hdmi-2.0': 14.4,
  'dp-hbr': 8.64,
  'dp-hbr2': 17.28,
  'dp-hbr3': 25.92,
  'usb-c-2-lane': 8.64,
};

/** Whether a mode passes a port; rates in Gbit/s after line coding. */
export interface PortFit {
  fits: boolean;
  neededGbps: number;
  usableGbps: number;
  /** Highest whole refresh rate the port carries at this size. */
  highestHz: number;
}

/** Whether a screen's mode passes its port in RGB with 8 bits a colour: clock × 24. The clock is that of CVT reduced blanking. */
export function portFit(screen: Screen, port: PortKind): PortFit {
  const usable = portRateGbps[port];
  const needed = (hz: number) => (reducedBlanking(screen.widthPx, screen.heightPx, hz).clockMhz * 24) / 1000;
  const hz = screen.refreshHz ?? 60;
  const neededGbps = needed(hz);
  const fits = neededGbps <= usable;
  const common = [144, 120, 100, 75, 60, 50, 30, 25, 24];
  return { fits, neededGbps, usableGbps: usable, highestHz: fits ? hz : (common.find((rate) => rate < hz && needed(rate) <= usable) ?? 0) };
}
