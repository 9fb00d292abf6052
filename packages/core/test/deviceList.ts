import { emptyEstate, intakeTarget, type Estate } from '@underpass/contracts';
import { readDelimited } from '../src/intake/delimited.js';
import type { IntakeTarget } from '../src/intake/target.js';
import { isFieldWord } from '../src/intake/fieldWords.js';

/** Two places, and what stands for a list of devices over them. */
export const yard = { id: 'yard', name: 'North yard', kind: 'dock', latitude: 53, longitude: 6, lineKind: 'fibre' };
export const hall = { id: 'hall', name: 'Wexcombe hall', kind: 'ticket-hall', latitude: 53, longitude: 6, lineKind: 'dsl' };
export const estateOf = (parts: object): Estate => ({ ...emptyEstate(), ...parts }) as Estate;
export const estate = estateOf({ location: [yard, hall] });
export const targetOf = (of: Estate = estate, kind: 'endpoint' | 'person' | 'group' | 'location' = 'endpoint'): IntakeTarget =>
  intakeTarget(kind, (each) => of[each]);
export const sheetOf = (text: string) => readDelimited(text, { isKnown: isFieldWord });

export const devices = `Gerätename;Inventar-Nr.;Gerätetyp;Standort;RAM (GB);Auflösung;Eigentum;Plattform;Prozessor;Zugangsart
Kasse 1;INV 1;Thin Client;North Yard;4;1920x1080;Firma;thin;x64;eingebaut
Kasse 2;INV 2;Notebook;wexcombe-hall;16;2x 1920 x 1080;privat;desktop;x64;Browser
`;
export const common = {
  ownership: 'managed',
  platform: 'desktop',
  processor: 'x86-64',
  clientKind: 'browser',
  deviceClass: 'laptop',
  location: 'yard',
};
