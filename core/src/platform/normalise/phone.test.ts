import { readablePhone } from './phone';

describe('a phone number', () => {
  it.each([
    ['+441632960118', '+44 1632 960118'],
    ['+4940123456', '+49 40 123456'],
    ['+46701234567', '+46 70 123 45 67'],
    ['+12025550123', '+1 202 555 0123'],
    ['12', '12'],
    ['', ''],
  ])('%s is read as %s', (phone, read) => {
    expect(readablePhone(phone)).toBe(read);
  });
});
