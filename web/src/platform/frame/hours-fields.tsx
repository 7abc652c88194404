import { weekdayKeys, type BusinessHours, type WeekdayKey, type WorkingCalendar } from '@zawn/core';
import { Button, TimePicker } from 'antd';
import dayjs from 'dayjs';
import { weekDayName } from './format';
import { useWanted } from './use-wanted';
import './hours-fields.css';

const CLOCK = 'HH:mm';
const STEP = 15;
/** Any Monday. */
const asTime = (text: string) => dayjs(`2026-11-23T${text}`);

interface Props {
  /** Whose hours they are, for those who do not see what stands around. */
  of: string;
  hours: BusinessHours;
  /** What holds where they have none of their own. */
  otherwise: WorkingCalendar;
  change: (hours: BusinessHours) => Promise<unknown>;
  /** Whether they can do without their own. */
  canInherit?: boolean;
}

/** On which days of the week somebody works, from and until when. */
export function HoursFields({ of, hours, otherwise, change, canInherit = false }: Props) {
  const { workingDays, opens, closes } = hours;
  const [shown, want] = useWanted<BusinessHours>({ workingDays, opens, closes }, change);
  const days = (shown.workingDays ?? otherwise.workingDays) as readonly WeekdayKey[];
  const hasOwn = shown.workingDays != null || shown.opens != null;
  const toggle = (day: WeekdayKey) => {
    const next = days.includes(day) ? days.filter((each) => each !== day) : [...days, day];
    // Nobody works on no day at all.
    if (next.length > 0) want({ ...shown, workingDays: next });
  };
  return (
    <div className={`hours ${hasOwn || !canInherit ? '' : 'hours-inherited'}`} role="group" aria-label={of}>
      <span className="hours-days">
        {weekdayKeys.map((day, index) => (
          <button
            key={day}
            type="button"
            className="hours-day"
            aria-pressed={days.includes(day)}
            aria-label={`${weekDayName((index + 1) % 7)}, ${of}`}
            title={weekDayName((index + 1) % 7)}
            onClick={() => toggle(day)}
          >
            {weekDayName((index + 1) % 7).slice(0, 2)}
          </button>
        ))}
      </span>
      <TimePicker.RangePicker
        format={CLOCK}
        minuteStep={STEP}
        needConfirm={false}
        allowClear={false}
        value={[asTime(shown.opens ?? otherwise.opens), asTime(shown.closes ?? otherwise.closes)]}
        onChange={(times) => {
          const [from, until] = (times ?? []).map((time) => time?.format(CLOCK));
          if (from && until) want({ ...shown, opens: from, closes: until });
        }}
        aria-label={`Hours, ${of}`}
      />
      {canInherit && hasOwn && (
        <Button
          type="text"
          size="small"
          onClick={() => want({ workingDays: null, opens: null, closes: null })}
          aria-label={`No hours of their own, ${of}`}
        >
          as usual
        </Button>
      )}
    </div>
  );
}
