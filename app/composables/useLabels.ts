/**
 * Reads and prints trade labels on the device; the reader's binary is served by us and loaded when first
 * needed.
 */
export async function readPicture(picture: Blob | ImageData): Promise<string | null> {
  const [{ prepareZXingModule, readBarcodes }, { default: wasm }] = await Promise.all([
    import('zxing-wasm/reader'),
    import('zxing-wasm/reader/zxing_reader.wasm?url'),
  ])
  await prepareZXingModule({
    overrides: {
      locateFile: (path: string, prefix: string) => (path.endsWith('.wasm') ? wasm : prefix + path),
    },
  })
  const found = await readBarcodes(picture, {
    formats: ['DataMatrix', 'Code128', 'QRCode'],
    tryHarder: true,
    maxNumberOfSymbols: 1,
  })
  return found.find((f) => f.isValid && f.text)?.text ?? null
}

/**
 * Draws a label's symbol into a canvas, dark on white, with room around it. A label of the site may say
 * less than trade asks.
 */
export async function drawSymbol(canvas: HTMLCanvasElement, text: string): Promise<void> {
  const { default: bwip } = await import('bwip-js/browser')
  const drawn = {
    bcid: 'gs1datamatrix',
    text,
    dontlint: true,
    scale: 6,
    padding: 4,
    backgroundcolor: 'FFFFFF',
  }
  bwip.toCanvas(canvas, drawn)
}
