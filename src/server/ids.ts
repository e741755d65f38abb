const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

/** Whether a text can be a row's id at all: others are looked up nowhere. */
export const isUuid = (text: string): boolean => UUID.test(text);
