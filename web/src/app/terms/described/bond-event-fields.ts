import type { Field } from '../../fields/field';
import { presentationChoices } from '../form/choices';
import type { BondEventType, TypedBondEvent } from '../form/bond-form';
import type { DescribedEvents } from './described-event';

type BondEventField = Field<TypedBondEvent>;

const day = (key: string, label: string): BondEventField => ({
  control: 'on',
  key,
  label,
  reads: 'day',
  placeholder: 'such as 2029-10-01',
});
const face: BondEventField = { control: 'face', key: 'face', label: 'Face', reads: 'amount' };
const price: BondEventField = {
  control: 'price',
  key: 'price',
  label: 'Price, percent of face',
  reads: 'price',
};

/** Instalments, calls, redemptions and presentations of a bond. */
export const bondEventFields: DescribedEvents<BondEventType, TypedBondEvent> = {
  instalment: { list: 'redemptions', fixed: {}, rows: [[day('on', 'On'), face]] },
  call: { list: 'calls', fixed: {}, rows: [[day('from', 'From'), price]] },
  redemption: {
    list: 'redemptions',
    fixed: {},
    rows: [
      [day('on', 'On'), face],
      [
        price,
        {
          control: 'refundedBy',
          key: 'refundedBy',
          label: 'Refunded by, if it is',
          reads: 'text',
          optional: true,
        },
      ],
    ],
  },
  presentation: {
    list: 'events',
    fixed: { type: 'presentation' },
    rows: [
      [
        day('on', 'On'),
        { control: 'to', key: 'to', label: 'To, if not for good', reads: 'day', optional: true },
      ],
      [
        { control: 'as', key: 'as', label: 'All of it', choices: presentationChoices },
        { control: 'reason', key: 'reason', label: 'Because of', reads: 'text' },
      ],
    ],
  },
};
