/** Of this Legame, as its interface and what it writes say it. */
export const version = '0.1.0';
