import { acts, actType, type Act } from '@zawn/core';
import { Checkbox } from 'antd';

const groups = [
  { title: 'Beside that they may', isSetup: false },
  { title: 'Set up', isSetup: true },
];

/** What a role may do beside working with records. */
export function RoleActs({ chosen, change }: { chosen: readonly Act[]; change: (chosen: Act[]) => void }) {
  return (
    <>
      {groups.map(({ title, isSetup }) => (
        <section key={title} className="role-part" aria-label={title}>
          <h2>{title}</h2>
          <ul className="role-acts">
            {acts
              .filter((act) => (actType(act).isSetup ?? false) === isSetup)
              .map((act) => (
                <li key={act}>
                  <Checkbox
                    checked={chosen.includes(act)}
                    onChange={({ target }) =>
                      change(acts.filter((each) => (each === act ? target.checked : chosen.includes(each))))
                    }
                  >
                    {actType(act).label}
                  </Checkbox>
                </li>
              ))}
          </ul>
        </section>
      ))}
    </>
  );
}
