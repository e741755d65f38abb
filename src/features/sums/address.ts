/** A figure as an address holds it: SI, eight digits, no noise of the last bit. */
export const addressFigure = (x: number): string => String(Number(x.toPrecision(8)));
