import { useQuery } from '@tanstack/react-query';
import {
  fieldAt,
  type ImportCounts,
  type ImportBucket,
  type ImportHint,
  type TableHead,
  type UnknownText,
} from '@zawn/core';
import {
  matchInWords,
  matchKeys,
  targets,
  writesOf,
  type ImportSetup,
  type MatchKey,
  type Refusal,
  type SetupGuess,
  type TargetKey,
} from '@zawn/core/imports';
import { Button, Segmented, Select } from 'antd';
import { savedViews } from '../../platform/api/queries';
import { counted, number } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { peopleToChoose } from '../../platform/sessions/people-to-choose';
import { actionInWords, outcomes, bucketInWords, bucketsBeside } from './outcomes';
import { BadCells } from './bad-cells';
import { doubtsInWords, openDoubts, type Doubt } from './doubts';
import { Option } from './option';
import { Reading } from './reading';
import { UnknownTexts } from './unknown-texts';

interface Props {
  table: TableHead;
  setup: ImportSetup;
  conventions: Pick<SetupGuess, 'dates' | 'decimal' | 'names'>;
  /** Undefined while they are being counted for the first time. */
  counts: ImportCounts | undefined;
  unknown: readonly UnknownText[];
  /** Single choices that would let refused rows in. */
  hints: readonly ImportHint[];
  /** Cells that cannot be read, whether they keep their row out or not. */
  troubles: readonly Refusal[];
  isCounting: boolean;
  isStarting: boolean;
  /** Doubts that somebody has settled. */
  agreed: ReadonlySet<Doubt>;
  agree: (doubt: Doubt) => void;
  change: (change: Partial<ImportSetup>) => void;
  /** Reads the file again, as something else or in another way. */
  reread: (as: { target?: TargetKey; reading?: ImportSetup['reading'] }) => void;
  show: (bucket: ImportBucket) => void;
  start: () => void;
}

const BY_RULES = 'rules';

/** What will happen, with live counts, and everything that can be chosen about it. */
export function SetupPanel(props: Props) {
  const { table, setup, counts, hints, isCounting, isStarting, change, reread, show, start } = props;
  const { people, policy, catalogue } = useSession();
  const { data: saved } = useQuery(savedViews);
  const asked = doubtsInWords(openDoubts(table, props.conventions, props.agreed));
  const missing = fieldAt(catalogue, setup.target, 'name');
  const hasName = ['name', ...(missing?.joinedFrom ?? [])].some((path) => setup.columns.includes(path));
  const canCreate = hasName || setup.match.some((key) => setup.columns.includes(key));
  const left = setup.columns.filter((path) => path === null).length;
  const beside = counts ? bucketsBeside(counts) : [];
  const lists = (saved?.lists ?? []).filter(
    (list) => list.object === setup.target && policy.mayChangeShared('list', list),
  );
  return (
    <aside className="import-side" aria-label="What will happen">
      <Option label="Bring in as">
        <Select
          value={setup.target}
          options={targets.map(({ key, label }) => ({ value: key, label }))}
          onChange={(target) => reread({ target })}
          aria-label="Bring in as"
        />
      </Option>
      <ul className={`import-counts ${isCounting ? 'import-counting' : ''}`} aria-live="polite">
        {outcomes.map(({ outcome, label }) => (
          <li
            key={outcome}
            className={outcome === 'refuse' && counts && counts.refuse > 0 ? 'attention late' : ''}
          >
            <button
              type="button"
              disabled={!counts || counts[outcome] === 0}
              onClick={() => show({ object: setup.target, outcome })}
            >
              <b>{counts ? number(counts[outcome]) : '…'}</b> {label}
            </button>
          </li>
        ))}
        {counts !== undefined && counts.noted > 0 && (
          <li className="attention">
            <span>
              <b>{number(counts.noted)}</b> with a cell left empty
            </span>
          </li>
        )}
        {beside.map(({ bucket, count }) => (
          <li key={`${bucket.object} ${bucket.outcome}`} className="import-beside">
            <button type="button" onClick={() => show(bucket)}>
              <b>{number(count)}</b> {bucketInWords(bucket, setup.target)}
            </button>
          </li>
        ))}
      </ul>
      <Button
        type="primary"
        block
        size="large"
        disabled={!counts || asked !== undefined || writesOf(counts) === 0}
        loading={isStarting}
        onClick={start}
      >
        {counts ? actionInWords(counts) : 'Counting…'}
      </Button>
      {asked && <p className="attention">{asked}</p>}
      {(counts?.alike ?? 0) > 0 && (
        <Option label={`${counted(counts?.alike ?? 0, 'account')} probably the same as another`}>
          <Segmented<'new' | 'same'>
            size="small"
            block
            value={setup.alike ?? 'new'}
            onChange={(alike) => change({ alike })}
            options={[
              { value: 'new', label: 'new' },
              { value: 'same', label: 'the same' },
            ]}
          />
        </Option>
      )}
      {hints.map(({ words, setup: remedy, good, refused }) => (
        <p key={words} className="import-hint">
          <Button size="small" onClick={() => change(remedy)}>
            {words}
          </Button>
          <span className="second">
            {number(good)} of {number(refused)} refused {refused === 1 ? 'row' : 'rows'} would go in
          </span>
        </p>
      ))}
      {!canCreate && missing && (
        <p className="attention late">No column fills {missing.label}, so nothing can be created.</p>
      )}
      {table.notes.map((note) => (
        <p key={note} className="attention">
          {note}
        </p>
      ))}
      <Reading {...props} />
      <UnknownTexts {...props} />
      <BadCells {...props} />

      <Option label="Owner where no column says so">
        <Select
          value={setup.owner.by === 'person' ? setup.owner.id : BY_RULES}
          onChange={(value) =>
            change({ owner: value === BY_RULES ? { by: 'rules' } : { by: 'person', id: Number(value) } })
          }
          showSearch={{ optionFilterProp: 'label' }}
          options={[
            ...(setup.target === 'lead' && policy.may('giveByRules')
              ? [{ value: BY_RULES, label: 'as the assignment rules say' }]
              : []),
            ...peopleToChoose(people, setup.owner.by === 'person' && setup.owner.id),
          ]}
        />
      </Option>
      <Option label="A row is recognised by">
        <Select
          mode="multiple"
          value={[...setup.match]}
          onChange={(match: MatchKey[]) => change({ match })}
          options={matchKeys[setup.target].map((key) => ({ value: key, label: matchInWords[key] }))}
          placeholder="nothing: every row is new"
        />
      </Option>
      <Option label="When it is there already">
        <Select
          value={setup.onMatch}
          onChange={(onMatch) => change({ onMatch })}
          options={[
            { value: 'update', label: 'update it' },
            { value: 'skip', label: 'skip the row' },
            { value: 'create', label: 'create it once more' },
          ]}
        />
      </Option>
      {((counts?.maybe ?? 0) > 0 || setup.onMaybe === 'skip') && (
        <Option label="Same name, other email, phone or id">
          <Segmented<'create' | 'skip'>
            size="small"
            block
            value={setup.onMaybe ?? 'create'}
            onChange={(onMaybe) => change({ onMaybe })}
            options={[
              { value: 'create', label: 'create it' },
              { value: 'skip', label: 'skip the row' },
            ]}
          />
        </Option>
      )}
      {setup.onMatch === 'update' && (
        <>
          <Option label="An empty cell">
            <Segmented<ImportSetup['blanks']>
              size="small"
              block
              value={setup.blanks}
              onChange={(blanks) => change({ blanks })}
              options={[
                { value: 'keep', label: 'keeps the old' },
                { value: 'clear', label: 'clears it' },
              ]}
            />
          </Option>
          <Option label="Several values, such as tags">
            <Segmented<ImportSetup['several']>
              size="small"
              block
              value={setup.several}
              onChange={(several) => change({ several })}
              options={[
                { value: 'add', label: 'add to the old' },
                { value: 'replace', label: 'replace them' },
              ]}
            />
          </Option>
        </>
      )}
      {setup.target !== 'activity' && (
        <Option label="Tags for every row">
          <Select
            mode="tags"
            value={[...setup.tags]}
            onChange={(tags: string[]) => change({ tags })}
            tokenSeparators={[',']}
            open={false}
            suffixIcon={null}
            placeholder="none"
          />
        </Option>
      )}
      <Option label="Put on a list">
        <Select
          mode="tags"
          maxCount={1}
          value={setup.list === null ? [] : ['id' in setup.list ? `#${setup.list.id}` : setup.list.name]}
          onChange={(chosen: string[]) => {
            const [value] = chosen;
            const known = lists.find(({ id }) => `#${id}` === value);
            change({ list: value === undefined ? null : known ? { id: known.id } : { name: value } });
          }}
          options={lists.map(({ id, name }) => ({ value: `#${id}`, label: name }))}
          placeholder="none; type a name for a new one"
        />
      </Option>
      {left > 0 && <p className="second">{counted(left, 'column')} left out.</p>}
    </aside>
  );
}
