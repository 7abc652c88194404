import { choiceLabel, fieldOf, offered } from '@zawn/core';
import {
  CheckSquare,
  Coffee,
  FileText,
  Gavel,
  Gift,
  GraduationCap,
  Hammer,
  Mail,
  MapPin,
  MessageCircle,
  Phone,
  Presentation,
  Users,
  Video,
  type LucideIcon,
} from 'lucide-react';
import { useSession } from '../../platform/sessions/session';

/** The drawings that a type of activity can have, by the name it is kept under. */
export const kindIcons: Readonly<Record<string, { label: string; Icon: LucideIcon }>> = {
  tick: { label: 'Tick', Icon: CheckSquare },
  phone: { label: 'Phone', Icon: Phone },
  people: { label: 'People', Icon: Users },
  place: { label: 'Place', Icon: MapPin },
  screen: { label: 'Screen', Icon: Video },
  show: { label: 'Presentation', Icon: Presentation },
  letter: { label: 'Letter', Icon: Mail },
  words: { label: 'Words', Icon: MessageCircle },
  paper: { label: 'Paper', Icon: FileText },
  tool: { label: 'Tool', Icon: Hammer },
  cup: { label: 'Cup', Icon: Coffee },
  gift: { label: 'Gift', Icon: Gift },
  gavel: { label: 'Gavel', Icon: Gavel },
  school: { label: 'Training', Icon: GraduationCap },
};

/** The types of activities that can be planned, to choose from. */
export function useKinds(): { value: string; label: string }[] {
  const { catalogue } = useSession();
  const choices = offered(fieldOf(catalogue, 'activity', 'kind')?.choices);
  return choices.map(({ key, label }) => ({ value: key, label }));
}

/** The small sign of an activity's type. */
export function KindIcon({ kind }: { kind: string }) {
  const { catalogue } = useSession();
  const field = fieldOf(catalogue, 'activity', 'kind');
  const name = field?.choices?.find(({ key }) => key === kind)?.icon ?? 'tick';
  const { Icon } = kindIcons[name] ?? kindIcons.tick;
  return <Icon size={14} aria-label={choiceLabel(field, kind)} role="img" />;
}
