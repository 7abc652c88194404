import { useEffect, useState, type ComponentType } from 'react';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { GO_ANYWHERE, GoAnywhereHint, type GoAnywhereProps } from './go-anywhere-hint';

/**
 * One field for everything. What finds and lists is fetched when the field is first gone to; until it is there, the
 * field takes what is typed, so that no letter is lost.
 */
export function GoAnywhere() {
  const [text, setText] = useState('');
  const [loaded, setLoaded] = useState<{ Field: ComponentType<GoAnywhereProps> }>();
  const load = () => void import('./go-anywhere-field').then(({ default: Field }) => setLoaded({ Field }));
  const go = () => document.getElementById(GO_ANYWHERE)?.focus();
  useShortcuts('Anywhere', [{ keys: '/', does: 'Go anywhere (also Ctrl+K)', run: go }]);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      go();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  if (loaded) return <loaded.Field text={text} setText={setText} />;
  return (
    <label className="go-anywhere go-anywhere-plain">
      {text === '' && <GoAnywhereHint />}
      <input
        id={GO_ANYWHERE}
        aria-label="Go anywhere"
        autoComplete="off"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onFocus={load}
      />
    </label>
  );
}
