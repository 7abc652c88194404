import { CheckSquare, Phone, Users, type LucideIcon } from 'lucide-react';

const icons: Record<string, LucideIcon> = { task: CheckSquare, call: Phone, meeting: Users };
const labels: Record<string, string> = { task: 'Task', call: 'Call', meeting: 'Meeting' };

/** The small sign of an activity's type. */
export function KindIcon({ kind }: { kind: string }) {
  const Icon = icons[kind] ?? CheckSquare;
  return <Icon size={14} aria-label={labels[kind]} role="img" />;
}
