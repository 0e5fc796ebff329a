/**
 * Where to go on to on this site. What somebody else wrote into a link never leads off it: it is read as a browser reads it, which
 * leaves out tabs and line breaks and takes a backslash for a slash.
 * @param to as it stands in the address; @param origin of this site
 * @returns a path with its query; '/' for anything else
 */
export function pathHere(to: string | null, origin: string): string {
  if (!to?.startsWith('/') || !URL.canParse(to, origin)) return '/';
  const url = new URL(to, origin);
  // Once more as it goes out: what came to two slashes would be another site again.
  const path = url.pathname + url.search + url.hash;
  return url.origin === origin && new URL(path, origin).origin === origin ? path : '/';
}
