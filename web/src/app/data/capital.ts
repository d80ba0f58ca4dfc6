/** Words as a line begins with them. */
export const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);
