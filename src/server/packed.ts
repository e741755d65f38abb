/**
 * A page's data as one text. A value handed to the browser as it is is walked thing by thing, when it is sent, when it is read for
 * the first drawing and once more in the browser; a text is passed on as it is, and read by the engine's own parser.
 */
export type Packed<T> = string & { readonly of?: T };

/** Of what JSON can hold: text, finite numbers, lists, objects. */
export const packed = <T>(value: T): Packed<T> => JSON.stringify(value);
