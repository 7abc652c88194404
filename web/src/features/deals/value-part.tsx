import { useQuery } from '@tanstack/react-query';
import { linesValue, type AnyRecord } from '@zawn/core';
import { Button } from 'antd';
import { Plus } from 'lucide-react';
import { useRef, useState } from 'react';
import { oneRecord, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { money } from '../../platform/frame/format';
import { useWanted } from '../../platform/frame/use-wanted';
import { type SheetProps } from '../../kernel/shell/feature';
import { LineRow, type Line } from './line-row';
import './value-part.css';

const lineOf = ({ id, product, name, quantity, unitPrice }: AnyRecord): Line => ({
  id,
  product: product === null ? null : Number(product),
  name: String(name ?? ''),
  quantity: Number(quantity),
  unitPrice: Number(unitPrice),
});

/** Where the value of a deal comes from, and what makes the other one count. */
function ValueFrom({ deal, total, mayEdit }: { deal: AnyRecord; total: number; mayEdit: boolean }) {
  const write = useWrite();
  const currency = String(deal.currency);
  const doCount = deal.valueFrom === 'lines';
  const typed = deal.typedValue === null ? undefined : Number(deal.typedValue);
  const words = doCount
    ? `The lines set the value.${typed === undefined ? '' : ` ${money(typed, currency)} was typed in before.`}`
    : `The value, ${money(Number(deal.value), currency)}, is typed in.`;
  return (
    <p className="value-from">
      <span>{words}</span>
      {mayEdit && (
        <Button
          size="small"
          loading={write.isPending}
          onClick={() =>
            write.mutate({
              method: 'PATCH',
              path: pathOf('deal', deal.id),
              version: deal.version,
              body: { valueFrom: doCount ? 'typed' : 'lines' },
            })
          }
        >
          {doCount
            ? typed === undefined
              ? 'Type it in instead'
              : `Let ${money(typed, currency)} count instead`
            : `Let the lines count: ${money(total, currency)}`}
        </Button>
      )}
    </p>
  );
}

/** What a deal is worth line by line, and whether that is its value. */
export function ValuePart({ record: deal, may }: SheetProps) {
  const { data: answer } = useQuery(oneRecord('deal', deal.id));
  const write = useWrite();
  const [isAdding, setAdding] = useState(false);
  // A new empty row for each line that was added.
  const [added, setAdded] = useState(0);
  const body = useRef<HTMLTableSectionElement>(null);
  const [lines, want] = useWanted((answer?.parts?.lines ?? []).map(lineOf), (next) =>
    write.mutateAsync({
      method: 'PATCH',
      path: pathOf('deal', deal.id),
      version: deal.version,
      body: { lines: next },
    }),
  );
  // Nothing of it where amounts are hidden.
  if (deal.value === undefined || !answer) return null;
  const mayEdit = may.includes('edit');
  const total = linesValue(lines) ?? 0;
  const currency = String(deal.currency);
  const focusOn = (row: number) => {
    const fields = body.current?.rows.item(row)?.querySelectorAll('input');
    fields?.item(0).focus();
  };
  if (lines.length === 0 && !isAdding)
    return mayEdit ? (
      <section className="value-part" aria-label="Value line by line">
        <Button type="link" size="small" icon={<Plus size={14} />} onClick={() => setAdding(true)}>
          Value line by line
        </Button>
      </section>
    ) : null;
  const row = { currency, readOnly: !mayEdit };
  return (
    <section className="value-part" aria-label="Value line by line">
      <h3>Line by line</h3>
      <table>
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col" className="figure">
              Quantity
            </th>
            <th scope="col" className="figure">
              Each, {currency}
            </th>
            <th scope="col" className="figure">
              Sum
            </th>
            <th scope="col">
              <span className="visually-hidden">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody ref={body}>
          {lines.map((line, at) => (
            <LineRow
              key={JSON.stringify(line)}
              {...row}
              line={line}
              label={`line ${at + 1}`}
              keep={(next) => want(lines.with(at, next))}
              remove={() => want(lines.toSpliced(at, 1))}
              next={() => focusOn(at + 1)}
            />
          ))}
          {mayEdit && (
            <LineRow
              key={`new ${added}`}
              {...row}
              label="another line"
              autoFocus={isAdding}
              keep={(next) => {
                want([...lines, next]);
                setAdded(added + 1);
                setAdding(true);
              }}
              next={() => undefined}
            />
          )}
        </tbody>
        {lines.length > 1 && (
          <tfoot>
            <tr>
              <th scope="row" colSpan={3}>
                Together
              </th>
              <td className="figure">{money(total, currency)}</td>
              <td />
            </tr>
          </tfoot>
        )}
      </table>
      {lines.length > 0 && <ValueFrom deal={deal} total={total} mayEdit={mayEdit} />}
    </section>
  );
}
