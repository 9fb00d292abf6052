import { summariseFrameTimes } from '@underpass/core';
import type { BrowserDevice, BrowserFacts, DecodeAnswer, DrawnScene, Screen } from '@underpass/contracts';

interface DetailedScreen {
  width: number;
  height: number;
  left: number;
  top: number;
  devicePixelRatio: number;
}
type ScreenWindow = Window & { getScreenDetails?: () => Promise<{ screens: DetailedScreen[] }> };

/** The screens: all of them where the browser grants it, else the one this page is on. */
export async function measureScreens(refreshHz: number | undefined): Promise<Screen[]> {
  const hz = refreshHz === undefined ? {} : { refreshHz };
  const details = await Promise.race([
    (window as ScreenWindow).getScreenDetails?.().catch(() => null),
    new Promise<null>((resolve) => setTimeout(() => resolve(null), 4000)),
  ]);
  if (details && details.screens.length > 0)
    return details.screens.map((screen) => ({
      widthPx: Math.round(screen.width * screen.devicePixelRatio),
      heightPx: Math.round(screen.height * screen.devicePixelRatio),
      scale: Math.round(screen.devicePixelRatio * 100) / 100,
      x: Math.round(screen.left),
      y: Math.round(screen.top),
      ...hz,
    }));
  return [
    {
      widthPx: Math.round(screen.width * devicePixelRatio),
      heightPx: Math.round(screen.height * devicePixelRatio),
      scale: Math.round(devicePixelRatio * 100) / 100,
      ...hz,
    },
  ];
}

/** Frames counted for a while; the median interval tells the refresh rate. */
export function measureRefresh(frames = 60): Promise<number | undefined> {
  return new Promise((resolve) => {
    const times: number[] = [];
    const timer = setTimeout(() => resolve(undefined), 4000);
    const tick = (at: number) => {
      times.push(at);
      if (times.length < frames) return void requestAnimationFrame(tick);
      clearTimeout(timer);
      const gaps = times
        .slice(1)
        .map((time, i) => time - (times[i] as number))
        .sort((a, b) => a - b);
      const middle = gaps[Math.floor(gaps.length / 2)] ?? 0;
      resolve(middle > 0 ? Math.round(1000 / middle) : undefined);
    };
    requestAnimationFrame(tick);
  });
}

const codecs = {
  h264: 'video/mp4; codecs="avc1.640034"',
  hevc: 'video/mp4; codecs="hvc1.1.6.L153.B0"',
  vp9: 'video/webm; codecs="vp09.00.51.08"',
  av1: 'video/mp4; codecs="av01.0.13M.08"',
} as const;
const modes = {
  '1080p30': [1920, 1080, 30, 6e6],
  '1080p60': [1920, 1080, 60, 9e6],
  '2160p30': [3840, 2160, 30, 18e6],
  '2160p60': [3840, 2160, 60, 27e6],
} as const;

/** What the browser says of its decoders (Media Capabilities): supported, smooth, and efficient, which means in hardware. */
export async function measureDecoders(): Promise<DecodeAnswer[]> {
  const answers: DecodeAnswer[] = [];
  if (!navigator.mediaCapabilities) return answers;
  for (const [codec, contentType] of Object.entries(codecs) as [keyof typeof codecs, string][])
    for (const [mode, [width, height, framerate, bitrate]] of Object.entries(modes) as [
      keyof typeof modes,
      readonly [number, number, number, number],
    ][]) {
      const info = await navigator.mediaCapabilities
        .decodingInfo({ type: 'file', video: { contentType, width, height, framerate, bitrate } })
        .catch(() => null);
      if (info)
        answers.push({ codec, mode, supported: info.supported, smooth: info.smooth, hardware: info.supported && info.powerEfficient });
    }
  return answers;
}

const vertex =
  'attribute vec2 p;uniform float t;uniform mediump float i;void main(){float a=t+i*0.37;vec2 q=mat2(cos(a),-sin(a),sin(a),cos(a))*p*(0.2+0.6*fract(i*0.131));gl_Position=vec4(q,0.,1.);}';
const fragment =
  'precision mediump float;uniform mediump float i;void main(){float v=0.0;for(int k=0;k<24;k++){v+=sin(gl_FragCoord.x*0.01*float(k)+i);}gl_FragColor=vec4(fract(v),fract(i*0.3),0.5,0.5);}';

/** A short drawn scene with measured frame times; the renderer's own name tells processor or graphics hardware. */
export async function measureScene(canvas: HTMLCanvasElement, forMs = 1600): Promise<DrawnScene | undefined> {
  const gl = canvas.getContext('webgl', { powerPreference: 'high-performance' });
  if (!gl) return undefined;
  const info = gl.getExtension('WEBGL_debug_renderer_info');
  const renderer = String(gl.getParameter(info ? info.UNMASKED_RENDERER_WEBGL : gl.RENDERER)).slice(0, 300);
  const program = gl.createProgram();
  for (const [type, source] of [
    [gl.VERTEX_SHADER, vertex],
    [gl.FRAGMENT_SHADER, fragment],
  ] as const) {
    const shader = gl.createShader(type);
    if (!shader) return undefined;
    gl.shaderSource(shader, source);
    gl.compileShader(shader);
    gl.attachShader(program, shader);
  }
  gl.linkProgram(program);
  if (!gl.getProgramParameter(program, gl.LINK_STATUS)) return undefined;
  gl.useProgram(program);
  gl.bindBuffer(gl.ARRAY_BUFFER, gl.createBuffer());
  gl.bufferData(gl.ARRAY_BUFFER, new Float32Array([-1, -1, 1, -1, 0, 1]), gl.STATIC_DRAW);
  const at = gl.getAttribLocation(program, 'p');
  gl.enableVertexAttribArray(at);
  gl.vertexAttribPointer(at, 2, gl.FLOAT, false, 0, 0);
  const [t, i] = [gl.getUniformLocation(program, 't'), gl.getUniformLocation(program, 'i')];
  const times: number[] = [];
  await new Promise<void>((resolve) => {
    const started = performance.now();
    let before = started;
    const draw = () => {
      const now = performance.now();
      if (now > started) times.push(now - before);
      before = now;
      gl.clear(gl.COLOR_BUFFER_BIT);
      for (let n = 0; n < 60; n++) {
        gl.uniform1f(t, now / 700);
        gl.uniform1f(i, n);
        gl.drawArrays(gl.TRIANGLES, 0, 3);
      }
      gl.finish();
      if (now - started < forMs) requestAnimationFrame(draw);
      else resolve();
    };
    requestAnimationFrame(draw);
  });
  if (times.length < 2) return undefined;
  const { frames, averageFps, low1Fps } = summariseFrameTimes(times.slice(1));
  const byProcessor = /software|swift|llvm|basic render|raster/i.test(renderer);
  const tenth = (fps: number) => Math.round(fps * 10) / 10;
  return { renderer, drawnBy: byProcessor ? 'processor' : 'graphics', frames, averageFps: tenth(averageFps), low1Fps: tenth(low1Fps) };
}

interface Brand {
  brand: string;
  version: string;
}

/** Kind and version as the browser names itself: its brand, else the last name/version of its user agent. */
function nameOfBrowser(): { kind: string; version: string } {
  const brands = (navigator as Navigator & { userAgentData?: { brands: Brand[] } }).userAgentData?.brands.filter(
    ({ brand }) => !/not.*brand/i.test(brand),
  );
  const brand = brands?.at(-1);
  if (brand) return { kind: brand.brand.slice(0, 60), version: brand.version.slice(0, 60) };
  const [, kind = 'browser', version = ''] = /([A-Za-z]+)\/([\d.]+)\s*$/.exec(navigator.userAgent) ?? [];
  const own = /Version\/([\d.]+)/.exec(navigator.userAgent)?.[1];
  return { kind, version: own ?? version };
}

interface Told {
  userAgentData?: { mobile: boolean; getHighEntropyValues?: (hints: string[]) => Promise<{ architecture?: string; bitness?: string }> };
  deviceMemory?: number;
  connection?: { type?: string };
}

/** What the browser says of its device, as far as it says anything [User-Agent Client Hints; Device Memory; Network Information]. */
async function deviceFacts(): Promise<BrowserDevice | undefined> {
  const told = navigator as Navigator & Told;
  const said: { architecture?: string; bitness?: string } =
    (await told.userAgentData?.getHighEntropyValues?.(['architecture', 'bitness']).catch(() => ({}))) ?? {};
  const { architecture, bitness } = said;
  const kind = told.connection?.type;
  const device: BrowserDevice = {
    ...(told.userAgentData ? { mobile: told.userAgentData.mobile } : {}),
    ...(architecture === 'x86' || architecture === 'arm' ? { architecture } : {}),
    ...(bitness === '32' || bitness === '64' ? { bits: bitness === '32' ? 32 : 64 } : {}),
    ...(told.hardwareConcurrency > 0 ? { cores: Math.min(1024, told.hardwareConcurrency) } : {}),
    ...(told.deviceMemory === undefined ? {} : { memoryGB: Math.min(1024, Math.max(0.25, told.deviceMemory)) }),
    ...(kind === 'ethernet' ? { connection: 'wired' } : kind === 'wifi' ? { connection: 'wifi' } : {}),
  };
  return Object.keys(device).length ? device : undefined;
}

/** What this browser can do as a client. Camera and microphone are only counted, never opened. */
export async function browserFacts(): Promise<BrowserFacts> {
  const device = await deviceFacts();
  const devices = (await navigator.mediaDevices?.enumerateDevices().catch(() => [])) ?? [];
  return {
    ...nameOfBrowser(),
    ...(device ? { device } : {}),
    touch: navigator.maxTouchPoints > 0 && matchMedia('(pointer: coarse)').matches,
    can: {
      clipboard: navigator.clipboard !== undefined,
      fullScreen: document.fullscreenEnabled,
      keyboardLock: 'keyboard' in navigator,
      secondScreen: 'getScreenDetails' in window,
      usb: 'usb' in navigator,
      camera: devices.some((device) => device.kind === 'videoinput'),
      microphone: devices.some((device) => device.kind === 'audioinput'),
      webgl: 'WebGLRenderingContext' in window,
      webCodecs: 'VideoDecoder' in window,
      webrtc: 'RTCPeerConnection' in window,
    },
  };
}
