import { useQuery } from '@tanstack/react-query';
import {
  convert,
  lineSum,
  productsNamed,
  rateOn,
  toMajor,
  toMinor,
  type Condition,
  type RecordOf,
} from '@zawn/core';
import { AutoComplete, InputNumber } from 'antd';
import { X } from 'lucide-react';
import { useEffect, useRef, useState, type ComponentRef, type FocusEvent, type KeyboardEvent } from 'react';
import { fewRecords } from '../../platform/api/queries';
import { money } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';

type InputNumberRef = ComponentRef<typeof InputNumber>;
type Product = RecordOf<'product'> & { id: number };

/** A line as it is written: with its id where it is there already. */
export interface Line {
  id?: number;
  product: number | null;
  name: string;
  quantity: number;
  unitPrice: number;
}

interface Props {
  /** Left out for a new one. */
  line?: Line;
  currency: string;
  readOnly: boolean;
  /** What it is called for those who do not see where it stands. */
  label: string;
  autoFocus?: boolean;
  keep: (line: Line) => void;
  remove?: () => void;
  /** Goes on to the line below. */
  next: () => void;
}

const EMPTY = { product: null, name: '', quantity: 1, unitPrice: undefined };
const FOUND = 12;

/** What is still sold. */
const SOLD: Condition = { join: 'none', of: [{ field: 'retired', is: 'is', value: true }] };

/** The price of a product in another currency, at the rates of today; nothing where there is no rate. */
function usePriceIn(currency: string) {
  const { rates, organisation, today } = useSession();
  const rate = (of: string) => rateOn(rates, organisation.currency, of, today);
  return (product: Product): number | undefined => {
    if (product.currency === currency) return product.unitPrice;
    const [from, to] = [rate(product.currency), rate(currency)];
    return from === undefined || to === undefined ? undefined : convert(product.unitPrice, from / to);
  };
}

/**
 * A line edited where it is read: kept once it is left, or at Enter, which goes on to the next one. What is not
 * complete yet is not kept.
 */
export function LineRow({ line, currency, readOnly, label, autoFocus = false, keep, remove, next }: Props) {
  const [said, setSaid] = useState<
    Omit<Line, 'unitPrice' | 'quantity'> & { quantity?: number; unitPrice?: number }
  >(line ?? EMPTY);
  const quantityField = useRef<InputNumberRef>(null);
  const priceIn = usePriceIn(currency);
  const { name, quantity, unitPrice } = said;
  const sum =
    quantity === undefined || unitPrice === undefined ? undefined : lineSum({ quantity, unitPrice });
  const isWhole =
    name.trim() !== '' && quantity !== undefined && unitPrice !== undefined && sum !== undefined;
  const isOther = JSON.stringify(said) !== JSON.stringify(line ?? EMPTY);
  // Kept by Enter, it is not kept once more when it is left.
  const kept = useRef<string>(undefined);
  const commit = () => {
    const words = JSON.stringify(said);
    if (!isWhole || !isOther || kept.current === words) return;
    kept.current = words;
    keep({ ...said, name: name.trim(), quantity, unitPrice });
  };
  const latest = useRef(commit);
  useEffect(() => {
    latest.current = commit;
  });
  // Choosing a product leaves the field for a moment, before the focus goes on to the quantity.
  const leave = ({ currentTarget }: FocusEvent<HTMLElement>) =>
    requestAnimationFrame(() => {
      const focused = document.activeElement;
      const stays = currentTarget.contains(focused) || focused?.closest('.ant-select-dropdown');
      if (!stays) latest.current();
    });
  const goOn = (event: KeyboardEvent) => {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    commit();
    next();
  };
  const [isLookedAt, setLookedAt] = useState(false);
  const { data } = useQuery({
    ...fewRecords({ ...productsNamed(name, SOLD), sort: [{ field: 'name' }] }, FOUND),
    enabled: isLookedAt,
  });
  const all = (data?.rows ?? []) as unknown as Product[];
  const options = all.map((product) => ({
    value: product.name,
    key: product.id,
    'aria-label': `${product.name}, ${product.code}`,
    label: (
      <span className="product-option">
        <span className="clip">{product.name}</span>
        <span className="second">
          {product.code} · {money(product.unitPrice, product.currency)}
        </span>
      </span>
    ),
  }));
  const choose = (id: number) => {
    const product = all.find((each) => each.id === id);
    if (!product) return;
    const price = priceIn(product) ?? unitPrice;
    quantityField.current?.focus({ cursor: 'all' });
    setSaid({
      ...said,
      product: id,
      name: product.name,
      ...(price === undefined ? {} : { unitPrice: price }),
    });
  };
  if (readOnly && line)
    return (
      <tr>
        <td>{name}</td>
        <td className="figure">{quantity}</td>
        <td className="figure">{money(line.unitPrice, currency)}</td>
        <td className="figure">{sum === undefined ? '–' : money(sum, currency)}</td>
        <td />
      </tr>
    );
  return (
    <tr onBlur={leave}>
      <td>
        <AutoComplete
          variant="borderless"
          className="wide"
          autoFocus={autoFocus}
          value={name}
          options={options}
          onFocus={() => setLookedAt(true)}
          placeholder="Product, or what is sold"
          popupMatchSelectWidth={360}
          defaultActiveFirstOption={false}
          aria-label={`What is sold, ${label}`}
          maxLength={200}
          onSelect={(_value, option) => choose(Number(option.key))}
          onChange={(text: string) =>
            setSaid((before) => ({
              ...before,
              name: text,
              // Other words than those of the product are no longer that product.
              product: text === before.name ? before.product : null,
            }))
          }
        />
      </td>
      <td className="figure">
        <InputNumber<number>
          ref={quantityField}
          variant="borderless"
          controls={false}
          className="wide"
          min={0.001}
          max={1_000_000_000}
          value={quantity}
          aria-label={`Quantity, ${label}`}
          onChange={(typed) => setSaid({ ...said, quantity: typed ?? undefined })}
          onKeyDown={goOn}
        />
      </td>
      <td className="figure">
        <InputNumber<number>
          variant="borderless"
          controls={false}
          className="wide"
          min={0}
          value={unitPrice === undefined ? null : toMajor(unitPrice, currency)}
          aria-label={`Price each, ${label}`}
          onChange={(major) =>
            setSaid({ ...said, unitPrice: major === null ? undefined : toMinor(major, currency) })
          }
          onKeyDown={goOn}
        />
      </td>
      <td className="figure">{sum === undefined ? '' : money(sum, currency)}</td>
      <td>
        {remove && (
          <button
            type="button"
            className="icon-button"
            aria-label={`Remove ${label}: ${name}`}
            onClick={remove}
          >
            <X size={13} aria-hidden />
          </button>
        )}
      </td>
    </tr>
  );
}
