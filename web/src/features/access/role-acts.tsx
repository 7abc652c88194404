import {
  acts,
  actsOfSetup,
  actType,
  operationLabels,
  operationsOfPart,
  setupOperations,
  type Act,
  type RoleRules,
  type SetupOperation,
} from '@zawn/core';
import { Checkbox } from 'antd';

type Permitted = Pick<RoleRules, 'acts' | 'withheld'>;

interface Props {
  permitted: Permitted;
  change: (permitted: Permitted) => void;
}

/** What may be done with one act more, or one less. */
const withAct = ({ acts: chosen, withheld }: Permitted, act: Act, may: boolean): Permitted => ({
  acts: acts.filter((each) => (each === act ? may : chosen.includes(each))),
  withheld: { ...withheld, [act]: [] },
});

/** What may be done with one thing of a part kept back, or given. */
export function withOperation(
  { acts: chosen, withheld }: Permitted,
  part: Act,
  operation: SetupOperation,
  may: boolean,
): Permitted {
  const kept = operationsOfPart(part).filter((each) =>
    each === operation ? !may : (withheld[part]?.includes(each) ?? false),
  );
  return { acts: chosen, withheld: { ...withheld, [part]: kept } };
}

function Part({ part, permitted, change }: Props & { part: Act }) {
  const { label } = actType(part);
  const isChosen = permitted.acts.includes(part);
  const operations = operationsOfPart(part);
  return (
    <tr>
      <th scope="row">
        <Checkbox
          checked={isChosen}
          onChange={({ target }) => change(withAct(permitted, part, target.checked))}
        >
          {label}
        </Checkbox>
      </th>
      {setupOperations.map((operation) => (
        <td key={operation}>
          {operations.includes(operation) && (
            <Checkbox
              disabled={!isChosen}
              checked={isChosen && !permitted.withheld[part]?.includes(operation)}
              aria-label={`${label}: ${operationLabels[operation].toLowerCase()}`}
              onChange={({ target }) => change(withOperation(permitted, part, operation, target.checked))}
            />
          )}
        </td>
      ))}
    </tr>
  );
}

/** What a role may do beside working with records, and with each part of setting up. */
export function RoleActs({ permitted, change }: Props) {
  return (
    <>
      <section className="role-part" aria-label="Beside that they may">
        <h2>Beside that they may</h2>
        <ul className="role-acts">
          {acts
            .filter((act) => !actType(act).isSetup)
            .map((act) => (
              <li key={act}>
                <Checkbox
                  checked={permitted.acts.includes(act)}
                  onChange={({ target }) => change(withAct(permitted, act, target.checked))}
                >
                  {actType(act).label}
                </Checkbox>
              </li>
            ))}
        </ul>
      </section>
      <section className="role-part" aria-label="Set up">
        <h2>Set up</h2>
        <table className="role-setup">
          <thead>
            <tr>
              <th scope="col">
                <span className="visually-hidden">Part</span>
              </th>
              {setupOperations.map((operation) => (
                <th key={operation} scope="col">
                  {operationLabels[operation]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {actsOfSetup.map((part) => (
              <Part key={part} part={part} permitted={permitted} change={change} />
            ))}
          </tbody>
        </table>
      </section>
    </>
  );
}
