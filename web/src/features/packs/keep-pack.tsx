import { type PackDesign } from '@zawn/core';
import { useNavigate } from 'react-router';
import { SaveDialog } from '../../kernel/views/save-dialog';

interface Props {
  title: string;
  name: string;
  design: PackDesign;
  close: () => void;
}

/** Keeps a pack as one's own, and goes to it. */
export function KeepPack({ title, name, design, close }: Props) {
  const navigate = useNavigate();
  return (
    <SaveDialog
      title={title}
      action="Save pack"
      name={name}
      sharing="private"
      teams={[]}
      making={{ path: 'packs', design }}
      onSaved={(id) => void navigate(`/packs/${id}`)}
      close={close}
    />
  );
}
