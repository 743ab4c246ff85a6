/** With this a web process ends whose port somebody else has. */
export const portTaken = 98;
