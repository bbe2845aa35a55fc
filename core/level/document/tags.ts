/** Whether a filter takes a tag: the tag itself or anything nested below it. */
export function tagMatches(filter: string, tag: string): boolean {
  return tag === filter || tag.startsWith(filter + '/');
}

/** Tags and those they are nested in, each once: of `harvest/pear` also `harvest`. */
export function withOuter(tags: readonly string[]): readonly string[] {
  return [...new Set(tags.flatMap((tag) => tag.split('/').map((_, at, words) => words.slice(0, words.length - at).join('/'))))];
}

/** Whether someone with these tags passes an any-of / none-of filter. An empty any-of takes everyone. */
export function whoMatches(who: { readonly any: readonly string[]; readonly none: readonly string[] }, tags: readonly string[]): boolean {
  const has = (filter: string): boolean => tags.some((tag) => tagMatches(filter, tag));
  return (who.any.length === 0 || who.any.some(has)) && !who.none.some(has);
}
