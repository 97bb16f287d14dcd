import { groupNumber } from './groups';

const FIRST = 4700 + 60 * groupNumber;

/** First of eight ports of each installation. */
export const BARE = FIRST;
export const DEMO = FIRST + 20;
/** An empty installation whose owners have sites that are not ours. */
export const STRANGE = FIRST + 40;

export const office = (port: number) => `http://localhost:${port}`;
export const shop = (port: number) => `http://shop.localhost:${port + 1}`;
export const live = (port: number, name = 'withybed') => `http://${name}.localhost:${port + 3}`;
export const demoOwner = { email: 'marnie@withybed.example', password: 'forty-one willows' };
export const card = { approve: '9000 0000 0000 0019', decline: '9000 0000 0000 0027' };
