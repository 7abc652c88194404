import { Search } from 'lucide-react';

export interface GoAnywhereProps {
  text: string;
  setText: (text: string) => void;
}

/** The id of the field, for the label and for the shortcuts. */
export const GO_ANYWHERE = 'go-anywhere';

export const GoAnywhereHint = () => (
  <span className="go-anywhere-hint">
    <Search size={14} aria-hidden /> Go anywhere <kbd>/</kbd>
  </span>
);
