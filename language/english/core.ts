/** All texts that core says in English, by core's folders. */
export const coreTexts = {} as const;
