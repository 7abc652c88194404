import { type SubjectKey } from '@zawn/core';

export interface Section {
  title: string;
  fields: readonly string[];
}

/** How a record is laid out: which facts in which order, and what the short form asks for. */
export interface Layout {
  sections: readonly Section[];
  quickAdd: readonly string[];
}

export const layouts: Record<SubjectKey, Layout> = {
  lead: {
    sections: [
      { title: 'Reach', fields: ['email', 'phone', 'web', 'city', 'country'] },
      { title: 'Organisation', fields: ['organisation', 'role'] },
      { title: 'Interest', fields: ['interest', 'budget', 'timeFrame', 'source', 'campaign'] },
      { title: 'Record', fields: ['owner', 'territory', 'status', 'createdAt', 'tags', 'description'] },
    ],
    quickAdd: ['name', 'organisation', 'email', 'phone', 'source', 'interest', 'owner'],
  },
  contact: {
    sections: [
      { title: 'Reach', fields: ['email', 'phone', 'mobile', 'city', 'country'] },
      { title: 'Work', fields: ['account', 'role', 'relationship'] },
      { title: 'Name', fields: ['firstName', 'lastName'] },
      { title: 'Record', fields: ['owner', 'createdAt', 'tags', 'description'] },
    ],
    quickAdd: ['name', 'account', 'role', 'email', 'phone', 'owner'],
  },
  account: {
    sections: [
      { title: 'Reach', fields: ['domain', 'phone', 'street', 'postcode', 'city', 'country'] },
      { title: 'Work', fields: ['industry', 'relationship', 'parent'] },
      { title: 'Record', fields: ['owner', 'territory', 'createdAt', 'tags', 'description'] },
    ],
    quickAdd: ['name', 'industry', 'domain', 'phone', 'city', 'country', 'owner'],
  },
  deal: {
    sections: [
      { title: 'Sale', fields: ['value', 'closeOn', 'timesPushed', 'probability', 'weighted'] },
      { title: 'People', fields: ['account', 'contact', 'competitors'] },
      {
        title: 'Ending',
        fields: [
          'closedOn',
          'wonReasons',
          'wonBecause',
          'lossReason',
          'lossComment',
          'lostTo',
          'tryAgainOn',
          'timesReopened',
        ],
      },
      { title: 'Record', fields: ['number', 'owner', 'source', 'lead', 'createdAt', 'tags', 'description'] },
    ],
    quickAdd: ['name', 'account', 'contact', 'pipeline', 'stage', 'value', 'currency', 'closeOn', 'owner'],
  },
};
