import { useEffect, useState } from 'react';
import type { BlobReference } from '../../core/session';
import { notify } from '../view/notices';
import { blobContent } from './blobs';

const addresses = new Map<string, string>();

/** The address of a stored picture in this page; null while it is read, or where it is not here. */
export function usePicture(blobs: readonly BlobReference[], picture: string): string | null {
  const hash = blobs.find(({ id }) => id === picture)?.hash ?? null;
  const [read, setRead] = useState<string | null>(null);
  useEffect(() => {
    if (hash === null || addresses.has(hash)) return;
    let current = true;
    void blobContent(hash).then((stored) => {
      if (stored) {
        addresses.set(hash, URL.createObjectURL(stored.content));
      } else if (current) {
        notify('A picture of this session is no longer stored here: lay it, or take it, again.');
      }
      if (current) setRead(hash);
    });
    return () => {
      current = false;
    };
  }, [hash]);
  if (picture.startsWith('data:')) return picture;
  // Read again when the effect above has found it.
  void read;
  return hash === null ? null : (addresses.get(hash) ?? null);
}
