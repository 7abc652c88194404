import { Modal } from 'antd';
import { useShortcutGroups } from './shortcuts';

/** Everything the keyboard does on the present page. */
export default function ShortcutHelp({ close }: { close: () => void }) {
  const groups = useShortcutGroups();
  return (
    <Modal open title="Keyboard" footer={null} onCancel={close} width={720}>
      <div className="shortcut-groups">
        {groups.map(({ title, shortcuts }) => (
          <section key={`${title} ${shortcuts[0]?.keys}`}>
            <h3>{title}</h3>
            <dl>
              {shortcuts.map(({ keys, does }) => (
                <div key={keys}>
                  <dt>
                    {keys.split(' ').map((key) => (
                      <kbd key={key}>{key}</kbd>
                    ))}
                  </dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Modal>
  );
}
