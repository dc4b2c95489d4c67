const MOST = 1600

/**
 * A photo made small on the device: at most 1600 px, JPEG.
 *
 * @throws ApiProblem when it is no picture that this browser can read
 */
export async function smallPicture(file: Blob): Promise<Blob> {
  const unread = () => new ApiProblem('bad-picture', 'This is not a picture that can be read.', 'photo', 0)
  const picture = await createImageBitmap(file).catch(() => Promise.reject(unread()))
  const scale = Math.min(1, MOST / Math.max(picture.width, picture.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.round(picture.width * scale)
  canvas.height = Math.round(picture.height * scale)
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height)
  picture.close()
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(unread())), 'image/jpeg', 0.82),
  )
}
