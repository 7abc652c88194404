import { formPreview, type FormDesign, type FormState } from '@zawn/core';
import { Segmented } from 'antd';
import { useDeferredValue, useState } from 'react';
import { useSession } from '../../platform/sessions/session';

const states: Record<FormState['is'], FormState> = {
  open: { is: 'open' },
  thanks: { is: 'thanks' },
  closed: { is: 'closed' },
};

/** The form as visitors will see it, following every change. */
export function FormPreview({ design }: { design: FormDesign }) {
  const { catalogue } = useSession();
  const [state, setState] = useState<FormState['is']>('open');
  // Typing comes first; the look at it follows as soon as there is time.
  const shown = useDeferredValue(formPreview(design, catalogue, states[state]));
  const [width, setWidth] = useState<'page' | 'phone'>('page');
  return (
    <section className="form-preview" aria-label="Preview">
      <div className="form-preview-tools">
        <Segmented<FormState['is']>
          size="small"
          value={state}
          options={[
            { value: 'open', label: 'To fill in' },
            { value: 'thanks', label: 'Sent' },
            { value: 'closed', label: 'Paused' },
          ]}
          onChange={setState}
          aria-label="State of the form"
        />
        <Segmented<'page' | 'phone'>
          size="small"
          value={width}
          options={[
            { value: 'page', label: 'Page' },
            { value: 'phone', label: 'Phone' },
          ]}
          onChange={setWidth}
          aria-label="Width of the preview"
        />
      </div>
      <iframe
        className={width === 'phone' ? 'form-on-phone' : ''}
        title="Preview of the form"
        sandbox=""
        srcDoc={shown}
      />
    </section>
  );
}
