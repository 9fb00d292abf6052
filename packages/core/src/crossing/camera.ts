import { frameRatePower } from '../picture/index.js';
import { followed, type Follower, type SettingValues } from '../settings/index.js';

/** Coded camera picture by height, Mbit/s, H.264 at 30 frames a second; from memory, assumed. */
export const cameraMbps = (heightPx: number): number => (heightPx <= 360 ? 0.6 : heightPx <= 720 ? 1.5 : 3);

/** An uncoded camera picture has 2 bytes a pixel: YUY2 [USB Device Class Definition for Video Devices, uncompressed payload]. */
const rawBitPerPixel = 16;
/** What a camera sends without being coded, Mbit/s, 16 : 9. @example 720 lines at 30 frames: 1280 · 720 · 16 · 30 = 442 Mbit/s */
export const rawCameraMbps = (heightPx: number, fps: number): number => ((heightPx * heightPx * 16) / 9) * rawBitPerPixel * fps * 1e-6;

/** What a camera sends by the settings, Mbit/s: nothing, coded by its height and frames, or uncoded as a raw device. */
export function cameraMbpsOf(s: SettingValues, device: Follower): number {
  const [height, fps] = [s['media.cameraHeight'], s['media.cameraFrames']];
  switch (followed(s, 'redirection.camera', device)) {
    case 'not':
      return 0;
    case 'as raw USB':
      return rawCameraMbps(height, fps);
    case 'by channel':
      return cameraMbps(height) * Math.pow(fps / 30, frameRatePower);
  }
}
