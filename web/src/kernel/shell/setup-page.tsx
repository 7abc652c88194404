import { Input } from 'antd';
import { Search } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { number } from '../../platform/frame/format';
import { Empty } from '../../platform/frame/states';
import './setup-page.css';
import { sectionsFound } from './places';
import { usePlaces } from './use-places';

/** Everything that is set up for the organisation, found by words. */
export function Component() {
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const all = usePlaces().filter(({ group }) => group === 'Setup');
  const sections = sectionsFound(all, text);
  if (all.length === 0)
    return (
      <Empty title="Your role does not let you set anything up.">
        <Link to="/">Go to Today</Link>
      </Empty>
    );
  return (
    <>
      <header className="page-head">
        <h1>Setup</h1>
        <span className="page-count" role="status">
          {text.trim() === ''
            ? `${number(all.length)} sections`
            : `${number(sections.length)} of ${number(all.length)}`}
        </span>
      </header>
      <div className="sections">
        <Input
          autoFocus
          allowClear
          prefix={<Search size={15} aria-hidden />}
          placeholder="What do you want to set up?"
          aria-label="Find a section"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onPressEnter={() => sections.length > 0 && void navigate(sections[0].path)}
        />
        <ul>
          {sections.map(({ path, label, about, letter, icon: Icon }) => (
            <li key={path}>
              <Link to={path}>
                <Icon size={19} aria-hidden />
                <span>
                  <b>{label}</b>
                  <span className="second">{about}</span>
                </span>
                <kbd>{`g ${letter}`}</kbd>
              </Link>
            </li>
          ))}
        </ul>
        {sections.length === 0 && <p className="second">Nothing in Setup goes by “{text.trim()}”.</p>}
      </div>
    </>
  );
}
