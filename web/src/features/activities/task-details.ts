import { subjectKeys } from '@zawn/core';
import { type Subject } from '../../kernel/records/subjects-input';

/** A step of what is to be done; one that is on file already has an id. */
export interface Step {
  id?: number;
  name: string;
  done: boolean;
}

/** Steps as they are kept: those without words are none. */
export const keptSteps = (steps: readonly Step[]): Step[] =>
  steps.map((step) => ({ ...step, name: step.name.trim() })).filter(({ name }) => name !== '');

/** What can be said of an activity beside what, when and who. */
export interface TaskDetails {
  priority: string | null;
  description: string;
  place: string;
  steps: Step[];
  alsoAbout: Subject[];
}

export const NO_DETAILS: TaskDetails = {
  priority: null,
  description: '',
  place: '',
  steps: [],
  alsoAbout: [],
};

/** The details as they are written. */
export const writtenDetails = ({ priority, description, place, steps, alsoAbout }: TaskDetails) => ({
  priority,
  description: description.trim() || null,
  place: place.trim() || null,
  checklist: keptSteps(steps),
  alsoAbout: alsoAbout.map(({ object, id }) =>
    Object.fromEntries(subjectKeys.map((key) => [key, key === object ? id : null])),
  ),
});
