import { useQuery } from '@tanstack/react-query';
import { readyReports, reportSubjects } from '@zawn/core';
import { Button, Input } from 'antd';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Shelves, useOwnAndShared, type ShelfEntry } from '../../kernel/views/shelves';
import { useSession } from '../../platform/sessions/session';
import { keptReports } from './report-queries';
import './reports.css';

/** What is no question of figures, and stands among the reports all the same. */
const MOVEMENT = {
  key: 'movement',
  subject: 'Pipeline',
  name: 'How the pipeline moved',
  about:
    'From what was open on one day to what is open on another: created, raised, won, lost, pushed out and the rest, each with its deals.',
  design: { question: { object: 'deal' } },
} as const;

const matches = ({ name, about }: ShelfEntry, text: string) =>
  text
    .toLowerCase()
    .split(/\s+/)
    .every((word) => `${name} ${about ?? ''}`.toLowerCase().includes(word));

/** Every report there is, by what one wants to know: one's own first, then those that come with Zawn. */
export function Component() {
  const { policy } = useSession();
  const { data: kept = [] } = useQuery(keptReports);
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const shelves: [string, readonly ShelfEntry[]][] = [
    ...useOwnAndShared(kept, ({ about }) => about ?? null),
    ...reportSubjects.map((subject): [string, readonly ShelfEntry[]] => [
      subject,
      [...readyReports, MOVEMENT].filter(
        (each) => each.subject === subject && policy.allows(each.design.question.object, 'see'),
      ),
    ]),
  ];
  const found = shelves.map(([subject, entries]): [string, readonly ShelfEntry[]] => [
    subject,
    entries.filter((each) => matches(each, text)),
  ]);
  return (
    <>
      <header className="page-head">
        <h1>Reports</h1>
        <div className="page-tools">
          <Input
            className="report-find"
            aria-label="Find a report"
            placeholder="Find a report"
            allowClear
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <Button type="primary" icon={<Plus size={15} />} onClick={() => void navigate('/reports/new')}>
            New report
          </Button>
        </div>
      </header>
      <div className="report-shelves">
        {found.every(([, entries]) => entries.length === 0) && (
          <p className="second">No report speaks of “{text}”.</p>
        )}
        <div>
          <Shelves shelves={found} path="/reports" />
        </div>
      </div>
    </>
  );
}
