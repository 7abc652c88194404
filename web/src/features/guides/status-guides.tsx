import { leadSteps, type Choice } from '@zawn/core';
import { StepGuide, useGuideItems } from './step-guide';

/** What is to be found out or done while a lead is in each of the statuses that it goes through. */
export function StatusGuides({ statuses }: { statuses: readonly Choice[] }) {
  const items = useGuideItems();
  return (
    <section className="status-guides" aria-label="Guides">
      <h3>What to find out or do</h3>
      <p className="second">
        Asked of every lead while it has the status. What is required holds it up until it is answered.
      </p>
      {leadSteps(statuses)
        .slice(0, -1)
        .map((status) => {
          const name = statuses.find(({ key }) => key === status)?.label ?? status;
          const own = items.filter((item) => item.status === status);
          return (
            <details key={status}>
              <summary>
                {name} <span className="second">{own.length === 0 ? 'nothing is asked' : own.length}</span>
              </summary>
              <StepGuide step={{ status }} name={name} items={own} />
            </details>
          );
        })}
    </section>
  );
}
