let asked = '';

/**
 * A question about something that may be and is hardly meant, asked once: given again, it is meant. `about` tells what is
 * asked about; null when there is no doubt, or it was asked last.
 */
export function questionAbout(about: string, doubt: string | null): string | null {
  const question = `${about} ${doubt ?? ''}`;
  if (doubt === null || asked === question) return null;
  asked = question;
  return `${doubt}. Type it once more if it is meant.`;
}
