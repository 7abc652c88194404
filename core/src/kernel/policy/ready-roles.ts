import { type ObjectKey } from '../catalogue';
import { acts, type Act } from './acts';
import { readyRoleNames, type ReadyRoleKey } from './ready-role-names';
import { type ReachOfOperations, type RoleRules } from './role-rules';

/** Whether the people of a role have leads, deals and a target of their own. */
export type Sells = 'always' | 'sometimes' | 'never';

interface ReadyRole {
  readonly about: string;
  readonly sells: Sells;
  readonly rules: RoleRules;
}

/** The reach of each operation in the order of a role's table, `—` where it is not there. */
function row(text: string): ReachOfOperations {
  const keys = ['see', 'add', 'edit', 'delete', 'import', 'export'];
  return Object.fromEntries(
    text
      .trim()
      .split(/\s+/)
      .map((reach, index) => [keys[index], reach]),
  );
}

/** A table with a line for each object: its reach to see, add, edit, delete, import and export. */
function table(text: string): RoleRules['reach'] {
  const lines = text.trim().split('\n');
  return Object.fromEntries(
    lines.map((line) => {
      const [object, ...rest] = line.trim().split(/\s+/);
      return [object as ObjectKey, row(rest.join(' '))];
    }),
  );
}

const SELLING: readonly Act[] = ['closeDeals', 'convertLeads', 'mergeRecords'];
const LEADING: readonly Act[] = [...SELLING, 'seeTeam', 'giveByRules'];

/** What they permit. They are a beginning: each can be changed, and others added. */
const readyRoles: Readonly<Record<ReadyRoleKey, ReadyRole>> = {
  rep: {
    about: 'Sells: works on their own records and on what is shared with them.',
    sells: 'always',
    rules: {
      reach: table(`
        lead     shared shared shared shared shared none
        contact  shared shared shared shared shared none
        account  shared shared shared shared shared none
        deal     shared shared shared shared shared none
        activity shared shared shared shared shared none
        file     shared shared shared shared
        note     shared shared shared shared
        mail     shared shared shared shared
        view     shared own own own
        list     shared own own own
        callList shared own own own
        report   shared own own own
        dashboard shared own own own
        folder shared own own own
        snapshot shared own own own
        snapshotPlan shared own own own
        pack shared own own own
        target   own`),
      acts: SELLING,
      withheld: {},
      exceptions: [],
      fields: [],
    },
  },
  manager: {
    about: 'Leads a team: sees and changes what its people and the teams below work on.',
    sells: 'sometimes',
    rules: {
      reach: table(`
        lead     below below below below below below
        contact  below below below below below below
        account  below below below below below below
        deal     below below below below below below
        activity below below below below below below
        file     below below below below
        note     below below below below
        mail     below below below below
        view     shared own own own
        list     shared own own own
        callList shared own own own
        report   shared own own own
        dashboard shared own own own
        folder shared own own own
        snapshot shared own own own
        snapshotPlan shared own own own
        pack shared own own own
        target   below`),
      acts: LEADING,
      withheld: {},
      exceptions: [],
      fields: [],
    },
  },
  director: {
    about: 'Answers for all of it: sees everything, changes what the teams below work on.',
    sells: 'sometimes',
    rules: {
      reach: table(`
        lead     all below below below below all
        contact  all below below below below all
        account  all below below below below all
        deal     all below below below below all
        activity all below below below below all
        file     all below below below
        note     all below below below
        mail     all below below below
        view     shared own own own
        list     shared own own own
        callList shared own own own
        report   shared own own own
        dashboard shared own own own
        folder shared own own own
        snapshot shared own own own
        snapshotPlan shared own own own
        pack shared own own own
        target   all`),
      acts: [...LEADING, 'setTargets'],
      withheld: {},
      exceptions: [],
      fields: [],
    },
  },
  operations: {
    about: 'Sets Zawn up and looks after the data: sees and changes everything.',
    sells: 'never',
    rules: {
      reach: table(`
        lead     all all all all all all
        contact  all all all all all all
        account  all all all all all all
        deal     all all all all all all
        activity all all all all all all
        file     all all all all
        note     all all all all
        mail     all all all all
        view     shared own shared shared
        list     shared own shared shared
        callList shared own shared shared
        report   shared own shared shared
        dashboard shared own shared shared
        folder shared own shared shared
        snapshot shared own shared shared
        snapshotPlan shared own shared shared
        pack shared own shared shared
        target   all`),
      acts,
      withheld: {},
      exceptions: [],
      fields: [],
    },
  },
  readOnly: {
    about: 'Sees everything and changes nothing but views of their own.',
    sells: 'never',
    rules: {
      reach: table(`
        lead     all none none none none none
        contact  all none none none none none
        account  all none none none none none
        deal     all none none none none none
        activity all none none none none none
        file     all none none none
        note     all none none none
        mail     all none none none
        view     shared own own own
        list     shared own own own
        callList shared own own own
        report   shared own own own
        dashboard shared own own own
        folder shared own own own
        snapshot shared own own own
        snapshotPlan shared own own own
        pack shared own own own
        target   all`),
      acts: ['seeTeam'],
      withheld: {},
      exceptions: [],
      fields: [],
    },
  },
  finance: {
    about: 'Sees accounts, contacts, deals and targets, and takes them out as files.',
    sells: 'never',
    rules: {
      reach: table(`
        lead     none none none none none none
        contact  all none none none none all
        account  all none none none none all
        deal     all none none none none all
        activity none none none none none none
        file     none none none none
        note     none none none none
        mail     none none none none
        view     shared own own own
        list     shared own own own
        callList shared own own own
        report   shared own own own
        dashboard shared own own own
        folder shared own own own
        snapshot shared own own own
        snapshotPlan shared own own own
        pack shared own own own
        target   all`),
      acts: ['seeTeam'],
      withheld: {},
      exceptions: [],
      fields: [],
    },
  },
  partner: {
    about: 'Brings leads and works on what is shared with them. Deletes nothing and takes nothing out.',
    sells: 'sometimes',
    rules: {
      reach: table(`
        lead     shared shared shared none none none
        contact  shared shared shared none none none
        account  shared none   none   none none none
        deal     shared none   shared none none none
        activity own    own    own    own  none none
        file     own    own    own    own
        note     own    own    own    own
        mail     own    own    own    own
        view     own own own own
        list     own own own own
        callList own own own own
        report   own own own own
        dashboard own own own own
        folder own own own own
        snapshot own own own own
        snapshotPlan own own own own
        pack own own own own
        target   none`),
      acts: [],
      withheld: {},
      exceptions: [],
      fields: [],
    },
  },
};

/** What a ready role is called and permits. */
export const readyRole = (key: ReadyRoleKey): ReadyRole & { readonly name: string } => ({
  name: readyRoleNames[key],
  ...readyRoles[key],
});

export const isReadyRole = (key: string): key is ReadyRoleKey => Object.hasOwn(readyRoles, key);
