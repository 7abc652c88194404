import { useQuery } from '@tanstack/react-query';
import {
  allOf,
  ask,
  fieldOf,
  offered,
  productsNamed,
  toMinor,
  type AnyRecord,
  type Condition,
  type Field,
  type Question,
  type RecordOf,
} from '@zawn/core';
import { Button, Input, InputNumber, Select } from 'antd';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { Allowed } from '../../platform/sessions/allowed';
import { fewRecords, figureAnswers, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { briefMoney, number } from '../../platform/frame/format';
import { KeptMoney, KeptName } from '../../platform/frame/kept-field';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import './products.css';

type Product = AnyRecord & RecordOf<'product'>;

const NO_FAMILY = '';

/** Products shown at once; the others are found by typing. */
const SHOWN = 200;

/** Lines of deals that were won within a year. */
const WON: Condition = { field: 'deal.outcome', is: 'anyOf', value: ['won'] };
const LATELY = { direction: 'last', count: 12, unit: 'month' } as const;
const SOLD: Question = {
  ...ask('dealLine', allOf(WON, { field: 'deal.closedOn', is: 'in', value: LATELY })),
  groups: [{ field: 'product' }],
  measures: [
    { as: 'sum', of: 'quantity' },
    { as: 'sum', of: 'sum' },
  ],
};

/** The won deals that a product was sold in. */
const soldIn = (product: number): Question =>
  ask(
    'deal',
    { field: 'outcome', is: 'anyOf', value: ['won'] },
    { field: 'closedOn', is: 'in', value: LATELY },
    {
      related: 'dealLine.deal',
      where: { field: 'product', is: 'anyOf', value: [product] },
      is: 'atLeast',
      value: 1,
    },
  );

/** The currencies in which something can be priced: that of the reports and those with a rate. */
function useCurrencies(): string[] {
  const { organisation, rates } = useSession();
  return [...new Set([organisation.currency, ...rates.map(({ currency }) => currency)])];
}

interface RowProps {
  product: Product;
  /** How many were sold lately, and for how much. */
  sold: readonly (number | null)[] | undefined;
}

function Row({ product, sold }: RowProps) {
  const { catalogue, organisation } = useSession();
  const currencies = useCurrencies();
  const write = useWrite();
  const change = (body: Partial<RecordOf<'product'>>) =>
    write.mutate({ method: 'PATCH', path: pathOf('product', product.id), version: product.version, body });
  const { choices = [] } = fieldOf(catalogue, 'product', 'family') as Field;
  const isRetired = product.retired === true;
  const [quantity, value] = sold ?? [];
  return (
    <tr className={isRetired ? 'product-retired' : ''}>
      <td>
        <KeptName
          variant="borderless"
          value={product.code}
          maxLength={40}
          aria-label={`Code of ${product.name}`}
          keep={(code) => change({ code })}
        />
      </td>
      <th scope="row">
        <KeptName
          variant="borderless"
          value={product.name}
          maxLength={200}
          aria-label={`Name of ${product.name}`}
          keep={(name) => change({ name })}
        />
      </th>
      <td>
        <Select
          variant="borderless"
          className="wide"
          value={product.family ?? NO_FAMILY}
          options={[
            { value: NO_FAMILY, label: 'No family' },
            ...choices
              .filter(({ key, retired }) => !retired || key === product.family)
              .map(({ key, label }) => ({ value: key, label })),
          ]}
          aria-label={`Family of ${product.name}`}
          onChange={(family: string) => change({ family: family === NO_FAMILY ? null : family })}
        />
      </td>
      <td className="product-price">
        <KeptMoney
          variant="borderless"
          value={product.unitPrice}
          currency={product.currency}
          aria-label={`Unit price of ${product.name}`}
          keep={(unitPrice) => change({ unitPrice })}
        />
        <Select
          variant="borderless"
          value={product.currency}
          options={[...new Set([...currencies, product.currency])].map((code) => ({
            value: code,
            label: code,
          }))}
          aria-label={`Currency of ${product.name}`}
          onChange={(currency: string) => change({ currency })}
        />
      </td>
      <td className="figure" data-label="Sold in twelve months">
        {quantity ? (
          <Link to={listAddress('deals', soldIn(product.id))}>
            {number(quantity)}
            {value !== null && value !== undefined && (
              <span className="second"> {briefMoney(value, organisation.currency)}</span>
            )}
          </Link>
        ) : (
          <span className="second">–</span>
        )}
      </td>
      <td>
        <Button size="small" onClick={() => change({ retired: !isRetired })}>
          {isRetired ? 'Bring back' : 'Retire'}
        </Button>
      </td>
    </tr>
  );
}

/** Adds a product: code, name and price are enough. */
function NewProduct() {
  const { organisation } = useSession();
  const currencies = useCurrencies();
  const [code, setCode] = useState('');
  const [name, setName] = useState('');
  const [price, setPrice] = useState<number | null>(null);
  const [currency, setCurrency] = useState(organisation.currency);
  const write = useWrite();
  const isWhole = code.trim() !== '' && name.trim() !== '' && price !== null;
  return (
    <form
      className="product-add"
      aria-label="Another product"
      onSubmit={(event) => {
        event.preventDefault();
        if (!isWhole) return;
        const body = { code, name, unitPrice: toMinor(price, currency), currency };
        write.mutate(
          { method: 'POST', path: pathOf('product'), body },
          {
            onSuccess: () => {
              setCode('');
              setName('');
              setPrice(null);
            },
          },
        );
      }}
    >
      <Input
        value={code}
        maxLength={40}
        placeholder="Code"
        aria-label="Code of another product"
        onChange={({ target }) => setCode(target.value)}
      />
      <Input
        value={name}
        maxLength={200}
        placeholder="Name"
        aria-label="Name of another product"
        onChange={({ target }) => setName(target.value)}
      />
      <InputNumber<number>
        value={price}
        min={0}
        controls={false}
        placeholder="Unit price"
        aria-label="Unit price of another product"
        onChange={setPrice}
      />
      <Select
        value={currency}
        options={currencies.map((each) => ({ value: each, label: each }))}
        aria-label="Currency of another product"
        onChange={setCurrency}
      />
      <Button htmlType="submit" icon={<Plus size={14} />} disabled={!isWhole} loading={write.isPending}>
        Add
      </Button>
    </form>
  );
}

/** What is sold: code, name, family and price, and how much of it was sold within a year. */
export function Component() {
  const [typed, setTyped] = useState('');
  const isNarrowed = typed.trim() !== '';
  const question = { ...productsNamed(typed), sort: [{ field: 'retired' }, { field: 'code' }] };
  const { data, error, refetch } = useQuery(fewRecords(question, SHOWN + 1));
  const { data: answers } = useQuery(figureAnswers([SOLD]));
  const { catalogue } = useSession();
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={10} />;
  const products = data.rows.slice(0, SHOWN) as Product[];
  const sold = new Map(answers?.[0].rows.map(({ keys: [product], figures }) => [Number(product), figures]));
  const hasFamilies = offered(fieldOf(catalogue, 'product', 'family')?.choices).length > 0;
  return (
    <div className="products">
      <header className="page-head">
        <h1>Products</h1>
        <span className="page-count">what lines of deals are made of</span>
        <span className="page-tools">
          <Input.Search
            value={typed}
            allowClear
            placeholder="Find by code or name"
            aria-label="Find a product"
            onChange={({ target }) => setTyped(target.value)}
          />
        </span>
      </header>
      <Allowed object="product" to="add">
        <NewProduct />
      </Allowed>
      {products.length === 0 ? (
        <p className="second products-none">
          {isNarrowed
            ? 'No product has that in its code or name.'
            : 'No products yet. Lines of deals can say what is sold in words until there are.'}
        </p>
      ) : (
        <table>
          <thead>
            <tr>
              <th scope="col">Code</th>
              <th scope="col">Name</th>
              <th scope="col">Family</th>
              <th scope="col">Unit price</th>
              <th scope="col" className="figure">
                Sold in 12 months
              </th>
              <th scope="col">
                <span className="visually-hidden">Retire</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {products.map((product) => (
              <Row key={product.id} product={product} sold={sold.get(product.id)} />
            ))}
          </tbody>
        </table>
      )}
      {data.rows.length > SHOWN && (
        <p className="second products-none">
          The first {SHOWN} are shown. Type part of a name for the others.
        </p>
      )}
      {hasFamilies && (
        <p className="second products-none">
          Families are a list of <Link to="/setup/choices?list=productFamily">Choices</Link>.
        </p>
      )}
    </div>
  );
}
