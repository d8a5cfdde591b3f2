import { client } from '../api/client'

/** Shorter files are fetched by the page itself, so that a refusal is told in words; longer ones and folders by the browser. */
const WHOLE = 8 * 1024 * 1024

function save(address: string, name: string) {
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
}

/**
 * Fetches a file, or a folder as a ZIP, to where the browser keeps what it fetches.
 * @param bytes of the file; null for a folder
 * @throws Refusal when it cannot be read
 */
export async function download(imageId: string, place: string, name: string, bytes: number | null) {
  if (bytes === null || bytes > WHOLE) {
    save(`/api/v1/inside/${imageId}/content?place=${encodeURIComponent(place)}`, name)
    return
  }
  const { data } = await client.GET('/api/v1/inside/{imageId}/content', {
    params: { path: { imageId }, query: { place } },
    parseAs: 'blob',
  })
  const address = URL.createObjectURL(data as unknown as Blob)
  save(address, name)
  setTimeout(() => URL.revokeObjectURL(address), 60_000)
}
