export const LINKS_PER_ADDRESS = 4;
