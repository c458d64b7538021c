/** So many loops come with an answer where nobody says how many: two of the largest screens, since each key of a search brings them. */
export const pageRows = 40;
