import { type Option } from './options';
import { PickList } from './pick-list';
import { Token, type TokenProps } from './token';

type Props<T> = Omit<TokenProps, 'picker'> & {
  /** What the list is called, for those who do not see the sentence around it. */
  list: string;
  options: readonly Option<T>[];
  onPick: (value: T) => void;
  placeholder?: string;
};

/** A part of the sentence that is one of several: it opens them as a list, and picking one closes it. */
export function PickToken<T>({ list, options, onPick, placeholder, ...token }: Props<T>) {
  return (
    <Token
      {...token}
      picker={(close, typed) => (
        <PickList
          label={list}
          typed={typed}
          options={options}
          {...(placeholder ? { placeholder } : {})}
          onPick={(value) => {
            onPick(value);
            close();
          }}
        />
      )}
    />
  );
}
