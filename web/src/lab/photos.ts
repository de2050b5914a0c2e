// Photos of things, as the lab has them.
import type { Schemas } from '../api/client'

type Photo = Schemas['Photo']

/** The photos of a device in their order. */
export function photosOf(lab: { photos: Map<string, Photo> } | undefined, device: string): Photo[] {
  const own = [...(lab?.photos.values() ?? [])].filter((p) => p.device_id === device)
  return own.sort((a, b) => (a.order ?? 0) - (b.order ?? 0) || (a.id < b.id ? -1 : 1))
}

/** Where the picture of a photo is, or its thumbnail. */
export const pictureOf = (photo: Photo, thumbnail = false) => `/api/v1/pictures/${photo.file}${thumbnail ? '?thumbnail=true' : ''}`
