import { Controller, Get, Param } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { CardPlan, DeviceOptions, ImageList, RecipeList } from '@underpass/contracts';
import { matchImage } from '@underpass/core';
import { Answers } from '../edge/answers.js';
import { EstateStore } from '../estate/estate.store.js';
import { notFound } from '../problems/problem.js';

/** Of devices that take the password they came with, so many are named. */
const mostNamed = 5;

/** What is prepared before anybody comes: images for cards, devices to buy, recipes of hosts. */
@ApiTags('bringup')
@Controller('bringup')
export class PreparingController {
  constructor(private readonly store: EstateStore) {}

  /** Every image, with how many devices start from it; and devices that take the password they came with. */
  @Get('images')
  @Answers(ImageList)
  images(): ImageList {
    const { estate } = this.store.model;
    const images = estate.image.map((image) => {
      const fits = estate.endpoint
        .filter(({ deviceClass }) => deviceClass === image.deviceClass)
        .map((each) => matchImage(image, each).fit);
      const count = (wanted: (typeof fits)[number]) => fits.filter((fit) => fit === wanted).length;
      const devices = { fits: count('fits'), notKnown: count('not known'), others: count('does not fit') };
      return { ...image, password: image.password ?? null, sha256: image.sha256?.toLowerCase() ?? null, devices };
    });
    const delivered = estate.endpoint.filter(({ defaultPassword }) => defaultPassword).map(({ id }) => id);
    return {
      images: images.sort((a, b) => (a.id < b.id ? -1 : 1)),
      delivered: delivered.slice(0, mostNamed),
      deliveredCount: delivered.length,
    };
  }

  /** What a card for a device is planned from. */
  @Get('endpoints/:id/card')
  @Answers(CardPlan)
  card(@Param('id') id: string): CardPlan {
    const { model } = this.store;
    const endpoint = model.endpoints.get(id);
    const location = endpoint && model.locations.get(endpoint.location);
    if (!endpoint || !location) throw notFound('endpoint', id);
    const { deviceClass, processor, model: maker, bootMode } = endpoint;
    return {
      endpoint: {
        id,
        deviceClass,
        processor,
        ...(maker === undefined ? {} : { model: maker }),
        ...(bootMode === undefined ? {} : { bootMode }),
      },
      location: { id: location.id, name: location.name, timeZone: location.timeZone },
      images: [...model.estate.image],
    };
  }

  /** Kinds of devices that could be bought. */
  @Get('options')
  @Answers(DeviceOptions)
  options(): DeviceOptions {
    return { options: [...this.store.model.estate.deviceOption] };
  }

  /** Every recipe by which hosts are prepared; a host's report is held against one where it is read, and kept nowhere. */
  @Get('recipes')
  @Answers(RecipeList)
  recipes(): RecipeList {
    return { recipes: [...this.store.model.estate.recipe].sort((a, b) => (a.name < b.name ? -1 : 1)) };
  }
}
