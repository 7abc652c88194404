import { useQuery } from '@tanstack/react-query';
import { readyReports, reportSubjects, type Report } from '@zawn/core';
import { Button, Input } from 'antd';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
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

interface Entry {
  key: string;
  name: string;
  about: string | null;
  /** Whose it is, where that is said. */
  whose?: string;
}

const matches = ({ name, about }: Entry, text: string) =>
  text
    .toLowerCase()
    .split(/\s+/)
    .every((word) => `${name} ${about ?? ''}`.toLowerCase().includes(word));

/** Every report there is, by what one wants to know: one's own first, then those that come with Zawn. */
export function Component() {
  const { me, person, policy } = useSession();
  const { data: kept = [] } = useQuery(keptReports);
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const entryOf = (report: Report): Entry => ({
    key: String(report.id),
    name: report.name,
    about: report.about ?? null,
    ...(report.owner === me.id ? {} : { whose: person(report.owner)?.name ?? 'someone who left' }),
  });
  const shelves: [string, Entry[]][] = [
    ['My own', kept.filter(({ owner }) => owner === me.id).map(entryOf)],
    ['Shared with me', kept.filter(({ owner }) => owner !== me.id).map(entryOf)],
    ...reportSubjects.map((subject): [string, Entry[]] => [
      subject,
      [...readyReports, MOVEMENT].filter(
        (each) => each.subject === subject && policy.allows(each.design.question.object, 'see'),
      ),
    ]),
  ];
  const found = shelves
    .map(([subject, entries]): [string, Entry[]] => [subject, entries.filter((each) => matches(each, text))])
    .filter(([, entries]) => entries.length > 0);
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
        {found.length === 0 && <p className="second">No report speaks of “{text}”.</p>}
        <div>
          {found.map(([subject, entries]) => (
            <section key={subject} aria-label={subject} className="report-shelf">
              <h2>{subject}</h2>
              <ul>
                {entries.map(({ key, name, about, whose }) => (
                  <li key={key}>
                    <Link to={`/reports/${key}`}>{name}</Link>
                    {whose && <span className="second"> {whose}’s</span>}
                    {about && <p className="second">{about}</p>}
                  </li>
                ))}
              </ul>
            </section>
          ))}
        </div>
      </div>
    </>
  );
}
