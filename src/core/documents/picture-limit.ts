/** Most pixels a picture has: a phone's largest photo. A few bytes can claim many more, and each takes four of memory. */
export const PICTURE_LIMIT_PIXELS = 64e6;
