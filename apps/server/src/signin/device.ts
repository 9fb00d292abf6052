/** What a browser says of itself, cut down to what a person needs to know their own devices: engine and kind of device. */
export function deviceOf(agent: string | undefined): string {
  if (!agent) return 'a program';
  const kind = /Mobi|Phone/i.test(agent) ? 'phone' : /Tablet|Pad/i.test(agent) ? 'tablet' : /Mozilla/.test(agent) ? 'computer' : 'program';
  const engine = /(Gecko\/\d|Chrome\/|CriOS\/)/.exec(agent)?.[1] ?? '';
  if (kind === 'program') return `a program (${agent.replace(/[^\w ./-]/g, '').slice(0, 40)})`;
  const version = /(?:Chrome|CriOS|Firefox|Version)\/(\d{1,4})/.exec(agent)?.[1];
  const browser = engine.startsWith('Gecko') ? 'Gecko' : engine.startsWith('Chrome') || engine.startsWith('CriOS') ? 'Chromium' : 'WebKit';
  return `a browser on a ${kind} (${browser}${version ? ` ${version}` : ''})`;
}
