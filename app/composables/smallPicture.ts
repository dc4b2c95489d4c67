const MOST = 1600

/** A photo made small on the device: at most 1600 px, JPEG. */
export async function smallPicture(file: Blob): Promise<Blob> {
  const picture = await createImageBitmap(file)
  const scale = Math.min(1, MOST / Math.max(picture.width, picture.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.round(picture.width * scale)
  canvas.height = Math.round(picture.height * scale)
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('no picture'))), 'image/jpeg', 0.82),
  )
}
