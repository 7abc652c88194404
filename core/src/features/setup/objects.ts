import { ofObject } from '../../kernel/catalogue/customisable';
import { choiceListKeys, choiceLists, choices } from '../../kernel/catalogue/choice-lists';
import { object } from '../../kernel/catalogue/shared-fields';

export const customField = object({
  label: 'Custom field',
  plural: 'Custom fields',
  path: 'custom-fields',
  category: 'setup',
  setUpBy: 'setUpFields',
  nameField: 'label',
  fields: {
    object: ofObject,
    key: { label: 'Key', type: 'text', required: true, set: 'once', maxLength: 42 },
    label: { label: 'Label', type: 'text', required: true, maxLength: 60 },
    type: {
      label: 'Type',
      type: 'choice',
      required: true,
      choices: choices(
        ['text', 'Text'],
        ['longText', 'Long text'],
        ['number', 'Number'],
        ['money', 'Money'],
        ['date', 'Date'],
        ['dateTime', 'Date and time'],
        ['yesNo', 'Yes or no'],
        ['choice', 'Choice'],
        ['choices', 'Several choices'],
        ['link', 'Record or person'],
        ['file', 'File'],
        ['web', 'Web address'],
        ['email', 'Email'],
        ['phone', 'Phone'],
      ),
    },
    /** The choices as JSON: pairs of key and label. */
    choices: { label: 'Choices', type: 'longText' },
    to: { label: 'Links to', type: 'text', set: 'once', maxLength: 20 },
    required: { label: 'Required', type: 'yesNo', required: true },
    help: { label: 'Help', type: 'text' },
    /** What new records begin with, as JSON. */
    preset: { label: 'Begins as', type: 'longText', maxLength: 25_000 },
    section: { label: 'Section', type: 'text', maxLength: 60 },
    position: { label: 'Order', type: 'number', required: true, min: 0 },
    retired: { label: 'Retired', type: 'yesNo', required: true },
  },
});

export const choiceList = object({
  label: 'List of choices',
  plural: 'Lists of choices',
  path: 'choice-lists',
  category: 'setup',
  setUpBy: 'setUpFields',
  nameField: 'name',
  fields: {
    list: {
      label: 'List',
      type: 'choice',
      required: true,
      set: 'once',
      choices: choiceListKeys.map((key) => ({ key, label: choiceLists[key].label })),
    },
    /** As in the catalogue, so that the log names it. */
    name: { label: 'Name', type: 'text', set: 'feature' },
    /** The choices in their order, as JSON. */
    choices: { label: 'Choices', type: 'longText', required: true },
  },
});

/** Which fields the short form for a new record asks for, in their order. */
export const quickAdd = object({
  label: 'Short form',
  plural: 'Short forms',
  path: 'quick-adds',
  category: 'setup',
  setUpBy: 'setUpFields',
  nameField: 'object',
  fields: {
    object: ofObject,
    /** Keys of fields as JSON. */
    fields: { label: 'Fields', type: 'longText', required: true },
  },
});

/** What a tag looks like; tags that nobody has given a colour need none. */
export const tag = object({
  label: 'Tag',
  plural: 'Tags',
  path: 'tags',
  category: 'setup',
  setUpBy: 'setUpFields',
  nameField: 'name',
  fields: {
    name: { label: 'Tag', type: 'text', required: true, maxLength: 60 },
    colour: {
      label: 'Colour',
      type: 'choice',
      choices: choices(
        ['water', 'Water'],
        ['shallows', 'Shallows'],
        ['gorse', 'Gorse'],
        ['thrift', 'Thrift'],
        ['lichen', 'Lichen'],
      ),
    },
  },
});
