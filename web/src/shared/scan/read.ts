import { prepareZXingModule, readBarcodes } from "zxing-wasm/reader";
import wasmUrl from "zxing-wasm/reader/zxing_reader.wasm?url";

// The package would fetch its module from elsewhere: ours ships with the app.
prepareZXingModule({
  overrides: { locateFile: (path: string, prefix: string) => (path.endsWith(".wasm") ? wasmUrl : prefix + path) },
});

/** The text of the first label in a picture: QR, Data Matrix, Code 128 or a goods number; null without one. */
export async function labelIn(picture: Blob | ImageData): Promise<string | null> {
  const found = await readBarcodes(picture, {
    formats: ["QRCode", "DataMatrix", "Code128", "EAN13", "EAN8"],
    tryHarder: true,
    maxNumberOfSymbols: 1,
  });
  return found[0]?.text ?? null;
}
