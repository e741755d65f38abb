/** What a control unit takes for a whole sensor: beyond these it sets a fault, V. */
export const SENSOR_WINDOW_V = [0.25, 4.75] as const;
