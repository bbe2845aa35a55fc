function offer(name: string, content: Blob): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** Hands a text to the browser as a file to be kept. */
export function download(name: string, text: string, type: string): void {
  offer(name, new Blob([text], { type }));
}

/** Hands a drawing to the browser as a PNG picture, at its own size in pixels. */
export async function downloadPicture(name: string, svg: string): Promise<void> {
  const address = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
  try {
    const image = new Image();
    image.src = address;
    await image.decode();
    const canvas = document.createElement('canvas');
    canvas.width = image.naturalWidth;
    canvas.height = image.naturalHeight;
    canvas.getContext('2d')?.drawImage(image, 0, 0);
    const content = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
    if (content === null) throw new Error('the browser cannot draw it at this size');
    offer(name, content);
  } finally {
    URL.revokeObjectURL(address);
  }
}
