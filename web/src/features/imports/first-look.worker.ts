import { catalogueWith } from '@zawn/core';
import { guessSetup, guessTarget, readBeginning, setupFrom, UnreadableFile } from '@zawn/core/imports';
import { type FirstLook, type Look } from './first-look';

/** Of text this much is enough; a workbook keeps its index at the end and is needed whole. */
const BEGINNING = 1 << 20;

async function look({ file, own, target, owner }: Look): Promise<FirstLook> {
  const mark = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  const isPacked = mark[0] === 0x50 && mark[1] === 0x4b;
  const part = isPacked || file.size <= BEGINNING ? file : file.slice(0, BEGINNING);
  const bytes = new Uint8Array(await part.arrayBuffer());
  const { rows, ...table } = await readBeginning(bytes);
  const catalogue = catalogueWith(own);
  const key = target ?? guessTarget(catalogue, { ...table, rows }, 'lead');
  const guess = guessSetup(catalogue, key, { ...table, rows });
  return {
    target: key,
    table: { ...table, rows, rowCount: rows.length },
    guess,
    setup: setupFrom(guess, key, owner),
  };
}

onmessage = ({ data }: MessageEvent<Look>) => {
  look(data).then(postMessage, (error: unknown) => {
    // The server reads the file too, and says what is wrong with it.
    if (!(error instanceof UnreadableFile)) throw error;
    postMessage(null);
  });
};
