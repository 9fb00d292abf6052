import type { CardImage, Endpoint } from '@underpass/contracts';

/** Whether something is as it has to be; `not known` where nobody said. */
export type Fit = 'fits' | 'does not fit' | 'not known';
/** What of an image was held against a device. */
export interface ImageMatch {
  fit: Fit;
  parts: { part: 'device' | 'processor' | 'model' | 'start'; fit: Fit; wanted: string; has: string | null }[];
}

/** Whether a device starts from an image: its class, processor, model and way of starting. One that does not fit outweighs one not known. */
export function matchImage(
  image: Pick<CardImage, 'deviceClass' | 'processor' | 'models' | 'bootMode'>,
  { deviceClass, processor, model, bootMode }: Pick<Endpoint, 'deviceClass' | 'processor' | 'model' | 'bootMode'>,
): ImageMatch {
  const same = (text: string) => (other: string) => text.trim().toLowerCase() === other.trim().toLowerCase();
  const fitOf = (known: boolean, fits: boolean): Fit => (!known ? 'not known' : fits ? 'fits' : 'does not fit');
  const anyModel = image.models.length === 0;
  const parts: ImageMatch['parts'] = [
    { part: 'device', fit: fitOf(true, deviceClass === image.deviceClass), wanted: image.deviceClass, has: deviceClass },
    { part: 'processor', fit: fitOf(true, processor === image.processor), wanted: image.processor, has: processor },
    {
      part: 'model',
      fit: anyModel ? 'fits' : fitOf(model !== undefined, model !== undefined && image.models.some(same(model))),
      wanted: anyModel ? 'any' : image.models.join(', '),
      has: model ?? null,
    },
    { part: 'start', fit: fitOf(bootMode !== undefined, bootMode === image.bootMode), wanted: image.bootMode, has: bootMode ?? null },
  ];
  const worst = (fit: Fit) => parts.some((each) => each.fit === fit);
  return { fit: worst('does not fit') ? 'does not fit' : worst('not known') ? 'not known' : 'fits', parts };
}
