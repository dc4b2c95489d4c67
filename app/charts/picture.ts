/** twice the size on screen, so that it can be printed */
const SCALE = 2

/** Saves a drawing of the page as a PNG on its own ground. */
export async function savePicture(svg: SVGSVGElement, name: string): Promise<void> {
  const { width, height } = svg.getBoundingClientRect()
  const text = new XMLSerializer().serializeToString(svg)
  const image = new Image()
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = width * SCALE
  canvas.height = height * SCALE
  const pen = canvas.getContext('2d')!
  pen.fillStyle = getComputedStyle(document.documentElement).getPropertyValue('--card').trim() || '#ffffff'
  pen.fillRect(0, 0, canvas.width, canvas.height)
  pen.drawImage(image, 0, 0, canvas.width, canvas.height)
  const link = document.createElement('a')
  link.href = canvas.toDataURL('image/png')
  link.download = name
  link.click()
}
