import { useEffect, useState } from 'react';
import { useSession } from '../../platform/sessions/session';
import { type FirstLook, type Look } from './first-look';

/** The first look at a file, read off the main thread; undefined until it is there. */
export function useFirstLook(file: Blob | undefined): FirstLook | undefined {
  const { customFields, choiceLists, me } = useSession();
  const [seen, setSeen] = useState<{ of: Blob; look: FirstLook }>();
  useEffect(() => {
    if (!file) return;
    const worker = new Worker(new URL('./first-look.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<FirstLook | null>) => {
      if (data) setSeen({ of: file, look: data });
      worker.terminate();
    };
    worker.postMessage({
      file,
      own: { customFields, choiceLists },
      target: undefined,
      owner: me.id,
    } satisfies Look);
    return () => worker.terminate();
  }, [file, customFields, choiceLists, me.id]);
  return seen && seen.of === file ? seen.look : undefined;
}
