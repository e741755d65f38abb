import type { JobDoc } from './job';

type Leaf = string | number | boolean | null | undefined;

/** The places in a document: keys and positions in a list, with points between them. */
export type PlaceIn<T> = T extends Leaf
  ? never
  : T extends readonly (infer Item)[]
    ? `${number}` | `${number}.${PlaceIn<NonNullable<Item>>}`
    : { [K in keyof T & string]: K | `${K}.${PlaceIn<NonNullable<T[K]>>}` }[keyof T & string];

/** A place in a job's document, "car.engine.redline_rpm": a name that is none there does not compile. */
export type JobPlace = PlaceIn<JobDoc>;
/** A place in what a job says of its car; by it a figure's mark is kept. */
export type CarPlace = PlaceIn<JobDoc['car']>;
/** A part of a job's intake. */
export type PartPlace = `air.parts.${number}`;
