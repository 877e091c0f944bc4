import type { Page } from '@playwright/test';

/** A file as it is handed in. */
export interface Handed {
  name: string;
  mimeType: string;
  buffer: Buffer;
}

/** A photograph of so many pixels, made by the browser's own encoder. */
export async function photograph(page: Page, name: string, width: number, height: number, type = 'image/jpeg'): Promise<Handed> {
  const bytes = await page.evaluate(
    async ([w, h, kind]) => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [w, h];
      const paint = canvas.getContext('2d')!;
      for (let i = 0; i < 60; i++) {
        paint.fillStyle = `hsl(${(i * 37) % 360} 60% 55%)`;
        paint.fillRect((i % 10) * (w / 10), Math.floor(i / 10) * (h / 6), w / 10, h / 6);
      }
      const blob = await new Promise<Blob>((resolve) => canvas.toBlob((b) => resolve(b!), kind, 0.9));
      return [...new Uint8Array(await blob.arrayBuffer())];
    },
    [width, height, type] as const,
  );
  return { name, mimeType: type, buffer: Buffer.from(bytes) };
}
