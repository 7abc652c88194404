import { type Notice } from '@zawn/core';

/** Asks for leave to show notices outside of Zawn. @returns whether it was given. */
export async function mayShowInBrowser(): Promise<boolean> {
  if (!('Notification' in window)) return false;
  return (await Notification.requestPermission()) === 'granted';
}

/** Shows a notice outside of Zawn, once however many of its pages are open. A click on it goes where it leads. */
export function showInBrowser({ id, text, path }: Notice, go: (path: string) => void): void {
  if (!('Notification' in window) || Notification.permission !== 'granted') return;
  const shown = new Notification('Zawn', { body: text, tag: `notice-${id}` });
  shown.onclick = () => {
    window.focus();
    go(path);
    shown.close();
  };
}
