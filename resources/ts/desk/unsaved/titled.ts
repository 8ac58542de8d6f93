/** Whether all titles say something; one that is empty for a moment is being typed anew. */
export const titled = (...titles: string[]) => titles.every((title) => title.trim() !== '')
