import { fieldOf, fieldsOf, isAskable, offered, type FormDesign } from '@zawn/core';
import { Button, Checkbox, Input, Select } from 'antd';
import { Copy } from 'lucide-react';
import { type ReactNode } from 'react';
import { useNotices } from '../../platform/api/use-write';
import { useSession } from '../../platform/sessions/session';
import { AskedList } from './asked-list';
import { type FormDraft } from './form-record';
import { GoesTo } from './goes-to';

interface Props {
  draft: FormDraft;
  onChange: (draft: FormDraft) => void;
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <fieldset className="form-part">
    <legend>{title}</legend>
    {children}
  </fieldset>
);

/** Everything about a form that operations decide, in the order in which visitors meet it. */
export function FormEditor({ draft, onChange }: Props) {
  const { catalogue } = useSession();
  const { design } = draft;
  const set = (values: Partial<FormDraft>) => onChange({ ...draft, ...values });
  const redesign = (values: Partial<FormDesign>) => set({ design: { ...design, ...values } });
  const setting = (values: Partial<FormDesign['sets']>) => {
    const sets = Object.entries({ ...design.sets, ...values }).filter(
      ([, value]) => value && value.length > 0,
    );
    redesign({ sets: Object.fromEntries(sets) });
  };
  const words = (key: 'heading' | 'intro' | 'button' | 'thanks' | 'closed', label: string, rows = 1) => (
    <label>
      {label}
      <Input.TextArea
        autoSize={{ minRows: rows, maxRows: 6 }}
        value={design[key]}
        onChange={({ target }) => redesign({ [key]: target.value })}
      />
    </label>
  );
  const askable = fieldsOf(catalogue, 'lead').filter(([key, field]) => isAskable(key, field));
  const sources = offered(fieldOf(catalogue, 'lead', 'source')?.choices);
  return (
    <>
      <Part title="What visitors read">
        {words('heading', 'Heading')}
        {words('intro', 'Introduction', 2)}
      </Part>
      <Part title="What they are asked">
        <AskedList asked={design.fields} askable={askable} onChange={(fields) => redesign({ fields })} />
      </Part>
      <Part title="What they agree to">
        <Input.TextArea
          autoSize={{ minRows: 1, maxRows: 6 }}
          value={design.consent?.text ?? ''}
          placeholder="Nothing"
          aria-label="Consent"
          onChange={({ target: { value } }) => {
            const { consent, ...without } = design;
            set({ design: value ? { ...design, consent: { ...consent, text: value } } : without });
          }}
        />
        {design.consent && (
          <Checkbox
            checked={design.consent.required ?? false}
            onChange={({ target }) => {
              const { text } = design.consent ?? { text: '' };
              redesign({ consent: target.checked ? { text, required: true } : { text } });
            }}
          >
            The form cannot be sent without it
          </Checkbox>
        )}
      </Part>
      <Part title="Sending it">
        {words('button', 'Button')}
        {words('thanks', 'Thank-you text', 2)}
        {words('closed', 'Text while paused')}
      </Part>
      <Part title="The leads it makes">
        <label>
          Go to
          <GoesTo to={draft.to} person={draft.person} onChange={set} label="Who gets the leads" />
        </label>
        <label>
          Source
          <Select
            allowClear
            value={design.sets.source}
            options={sources.map(({ key, label }) => ({ value: key, label }))}
            onChange={(source?: string) => setting({ source: source ?? '' })}
            aria-label="Source"
          />
        </label>
        <label>
          Campaign
          <Input
            value={design.sets.campaign ?? ''}
            placeholder="as the link says"
            onChange={({ target }) => setting({ campaign: target.value })}
          />
        </label>
        <label>
          Tags
          <Select
            mode="tags"
            value={design.sets.tags ?? []}
            tokenSeparators={[',']}
            open={false}
            onChange={(tags: string[]) => setting({ tags })}
            aria-label="Tags"
          />
        </label>
      </Part>
      <Part title="Where it stands">
        <label>
          Name, for yourselves
          <Input value={draft.name} onChange={({ target }) => set({ name: target.value })} />
        </label>
        <label>
          Address
          <Input
            prefix={<span className="second">{location.origin}/f/</span>}
            value={draft.slug}
            onChange={({ target }) => set({ slug: target.value })}
          />
        </label>
        <Snippet slug={draft.slug} name={draft.name} />
      </Part>
    </>
  );
}

/** What is put into a page of one's own website to show the form there. */
function Snippet({ slug, name }: Pick<FormDraft, 'slug' | 'name'>) {
  const { complain } = useNotices();
  const title = name.replace(/["&<>]/g, '');
  const text = `<script src="${location.origin}/f/embed.js" data-form="${slug}" data-title="${title}"></script>`;
  return (
    <div className="form-snippet">
      <span>To show it in a page of your website, put this where it should stand:</span>
      <code>{text}</code>
      <Button
        size="small"
        icon={<Copy size={13} />}
        onClick={() => void navigator.clipboard.writeText(text).catch(complain)}
      >
        Copy
      </Button>
    </div>
  );
}
