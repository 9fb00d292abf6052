import { describe, expect, test } from '@jest/globals';
import { assumedFigures, shippedThresholds, type AssumedFigure } from '@underpass/core';
import { figureWords, followed, isTyped, readAssumed, textOf, textsOfAssumed } from './assumed.js';

const [figure, other] = assumedFigures as [AssumedFigure, AssumedFigure];
const shipped = textsOfAssumed(null);
const office = (more: object) => ({ ...shipped, office: { ...(shipped.office as object), ...more } });

describe('figures that two type', () => {
  test('what nobody typed here follows; of what both wrote the typed stays, and theirs is told', () => {
    const typed = { ...office({ keyToPixelMs: '170' }), [figure.key]: '41' };
    const now = { ...office({ keyToPixelMs: '180', framesAtLeast: '9' }), [other.key]: '7' };
    const { texts, theirs } = followed(typed, shipped, now);
    expect(texts).toEqual({ ...now, ...{ [figure.key]: '41' }, office: { ...(now.office as object), keyToPixelMs: '170' } });
    expect(theirs).toEqual({ 'office.keyToPixelMs': '180' });
  });
  test('is typed where a figure or a threshold is another one, whatever order they stand in', () => {
    const turned = Object.fromEntries(Object.entries(shipped).reverse());
    expect([isTyped(shipped, shipped), isTyped(turned, shipped)]).toEqual([false, false]);
    expect(isTyped({ ...shipped, [figure.key]: `${figure.value}0` }, shipped)).toBe(true);
    expect(isTyped(office({ keyToPixelMs: '1' }), shipped)).toBe(true);
    // a field that is left out is an empty one
    const { lossAtMostPercent: _, ...rest } = shipped.office as Record<string, string>;
    expect(isTyped({ ...shipped, office: rest }, { ...shipped, office: { ...rest, lossAtMostPercent: '' } })).toBe(false);
    expect(isTyped({ ...shipped, office: rest }, shipped)).toBe((shipped.office as Record<string, string>).lossAtMostPercent !== '');
  });

  test('what both wrote alike is no matter, nor what nobody wrote', () => {
    const same = { ...shipped, [figure.key]: '41' };
    expect(followed(same, shipped, same)).toEqual({ texts: same, theirs: {} });
    expect(followed(shipped, shipped, shipped)).toEqual({ texts: shipped, theirs: {} });
  });
  test('an emptied threshold that another wrote stays empty', () => {
    const now = office({ lossAtMostPercent: '3' });
    const { texts, theirs } = followed(office({ lossAtMostPercent: '' }), shipped, now);
    expect([textOf(texts, 'office.lossAtMostPercent'), theirs]).toEqual(['', { 'office.lossAtMostPercent': '3' }]);
  });
  test('saved after that, theirs are not among what is written', () => {
    const organisation = { id: 'organisation', name: 'Saltmarsh', assumed: { [other.key]: other.value + 1 } } as never;
    const now = textsOfAssumed(organisation);
    const { texts } = followed({ ...shipped, [figure.key]: String(figure.value + 1) }, shipped, now);
    const { change } = readAssumed(organisation, texts, now);
    expect(change?.patches).toMatchObject([{ set: { [`assumed.${figure.key}`]: figure.value + 1 } }]);
    expect(Object.keys((change?.patches[0] as { set: object }).set)).toHaveLength(1);
  });
  test('each is told in its words', () => {
    expect(figureWords(figure.key)).toBe(figure.words);
    expect(figureWords('office.framesAtLeast')).toBe('office work: Frames a second, at least');
    expect(textOf(shipped, 'office.framesAtLeast')).toBe(String(shippedThresholds.office.framesAtLeast));
    expect(textOf(shipped, figure.key)).toBe(String(figure.value));
  });
});
