const LONGEST_SIDE_PX = 1920;
const JPEG_QUALITY = 0.82;
const PICTURES = ["image/jpeg", "image/png"];

/**
 * A picture as it is sent: upright, at most 1920 px, as JPEG without what the camera wrote into it.
 * What is no picture, or cannot be opened here, goes as it is: the server says what is wrong with it.
 */
export async function shrunk(file: File): Promise<Blob> {
  if (!PICTURES.includes(file.type)) return file;
  const bitmap = await createImageBitmap(file, { imageOrientation: "from-image" }).catch(() => null);
  if (bitmap === null) return file;
  const scale = Math.min(1, LONGEST_SIDE_PX / Math.max(bitmap.width, bitmap.height));
  const canvas = new OffscreenCanvas(Math.round(bitmap.width * scale), Math.round(bitmap.height * scale));
  canvas.getContext("2d")?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  return canvas.convertToBlob({ type: "image/jpeg", quality: JPEG_QUALITY });
}
