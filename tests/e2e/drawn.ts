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
      // A garden, with grain as a camera has it.
      const sky = paint.createLinearGradient(0, 0, 0, h * 0.6);
      sky.addColorStop(0, '#9cc4e4');
      sky.addColorStop(1, '#eef3f4');
      const box = (colour: string | CanvasGradient, x: number, y: number, width: number, height: number) => {
        paint.fillStyle = colour;
        paint.fillRect(x * w, y * h, width * w, height * h);
      };
      box(sky, 0, 0, 1, 0.6);
      box('#6d8f4a', 0, 0.53, 1, 0.47);
      box('#8a6a48', 0.65, 0.35, 0.04, 0.25);
      for (let i = 0; i < 9; i++) box('#d8cdb4', 0.1 + i * 0.03, 0.42, 0.012, 0.14);
      for (let i = 0; i < 4000; i++)
        box(
          `hsl(${70 + ((i * 37) % 60)} 40% ${30 + ((i * 53) % 30)}%)`,
          ((i * 7919) % 9973) / 9973,
          0.55 + (((i * 104_729) % 9967) / 9967) * 0.45,
          0.003,
          0.004,
        );
      paint.fillStyle = '#3f6b2d';
      paint.beginPath();
      paint.ellipse(w * 0.67, h * 0.28, w * 0.13, h * 0.17, 0, 0, 7);
      paint.fill();
      const blob = await new Promise<Blob>((resolve) => canvas.toBlob((b) => resolve(b!), kind, 0.9));
      return [...new Uint8Array(await blob.arrayBuffer())];
    },
    [width, height, type] as const,
  );
  return { name, mimeType: type, buffer: Buffer.from(bytes) };
}
