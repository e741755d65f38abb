import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderRoom } from '../../../test/render-room';
import { SignIn } from './sign-in';

it('says why it does not let one in, and counts the wait down', async () => {
  let n = 0;
  renderRoom(<SignIn shop="Mill Yard" />, {
    answer: () => {
      n += 1;
      return n === 1
        ? { status: 401, body: { message: 'These are not the words of this shop.' } }
        : { status: 429, body: { message: 'Too many wrong attempts.', wait_s: 2 } };
    },
  });
  expect(screen.getByRole('heading')).toHaveTextContent('Mill Yard');
  expect(screen.getByRole('button', { name: 'Sign in' })).toBeDisabled();
  await userEvent.type(screen.getByLabelText('The shop’s passphrase'), 'wrong words here{Enter}');
  expect(await screen.findByRole('alert')).toHaveTextContent('These are not the words of this shop.');
  await userEvent.click(screen.getByRole('button', { name: 'Sign in' }));
  await waitFor(() => expect(screen.getByRole('alert')).toHaveTextContent('Wait 2 s.'));
  expect(screen.getByRole('button', { name: 'Sign in' })).toBeDisabled();
  await waitFor(() => expect(screen.getByRole('button', { name: 'Sign in' })).toBeEnabled());
});
