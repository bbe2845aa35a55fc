/** What a study came to, as a sentence. */
export function Answer({ text, name }: { readonly text: string; readonly name: string }) {
  return (
    <p className="text-[17px] leading-snug" role="status" aria-label={`What ${name} comes to`}>
      {text}
    </p>
  );
}
