import { organisation } from './organisation.js';
import { region } from './region.js';
import { gateway } from './gateway.js';
import { pool } from './pool.js';
import { host } from './host.js';
import { resource } from './resource.js';
import { portal } from './portal.js';
import { publication } from './publication.js';
import { group } from './group.js';
import { location } from './location.js';
import { person } from './person.js';
import { endpoint } from './endpoint.js';
import { session } from './session.js';
import { signedIn } from './signedIn.js';
import { requirement } from './requirement.js';
import { setting } from './setting.js';
import { deviceClass } from './deviceClass.js';
import { scope } from './scope.js';
import { configServer } from './configServer.js';
import { configFile } from './configFile.js';
import { firmware } from './firmware.js';
import { image } from './image.js';
import { deviceOption } from './deviceOption.js';
import { recipe } from './recipe.js';
import { peripheral } from './peripheral.js';
import { usbRule } from './usbRule.js';

/** Kinds of estate object in the order in which they may refer to each other. A new one is a file beside this one and a line here. */
export const kinds = {
  organisation,
  region,
  gateway,
  pool,
  host,
  resource,
  portal,
  publication,
  group,
  location,
  person,
  endpoint,
  session,
  signedIn,
  requirement,
  setting,
  deviceClass,
  scope,
  configServer,
  configFile,
  firmware,
  image,
  deviceOption,
  recipe,
  peripheral,
  usbRule,
} as const;
