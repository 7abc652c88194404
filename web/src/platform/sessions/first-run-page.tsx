import { currencyOf, type FirstRun } from '@zawn/core';
import { Alert, Button, Form, Input, Select } from 'antd';
import { useState } from 'react';
import { ApiProblem, call } from '../api/client';
import { DemoCompanyBeside } from './demo-company';
import { organisationOptions } from './organisation-options';
import { SignInPicture } from './sign-in-picture';
import './sign-in.css';

const { currencies, timeZones, countries, months, weekDays } = organisationOptions();

/** The country that the browser's language is of. */
function likelyCountry(): string {
  const { region = 'GB' } = new Intl.Locale(navigator.language).maximize();
  return countries.some(({ value }) => value === region) ? region : 'GB';
}

/** The first start: the organisation and the first person, who sets up everything else. */
export default function FirstRunPage({ created }: { created: () => void }) {
  const [form] = Form.useForm<FirstRun>();
  const [problem, setProblem] = useState<string>();
  const create = async (values: FirstRun) => {
    setProblem(undefined);
    try {
      await call('POST', '/organisation', { body: values });
      created();
    } catch (error) {
      setProblem((error as Error).message);
      if (!(error instanceof ApiProblem)) return;
      const faults = error.problem.faults ?? [];
      form.setFields(
        faults.map(({ field, message }) => ({ name: field.split('.') as never, errors: [message] })),
      );
    }
  };
  const required = (message: string) => [{ required: true, message }];
  return (
    <div className="sign-in">
      <SignInPicture />
      <main className="sign-in-form">
        <h1>Welcome to Zawn</h1>
        <p className="sign-in-line">Say who you are; the rest can be changed later.</p>
        <DemoCompanyBeside />
        {problem && <Alert type="error" title={problem} role="alert" />}
        <Form<FirstRun>
          form={form}
          layout="vertical"
          requiredMark={false}
          onFinish={(values) => void create(values)}
          onValuesChange={({ country }: Partial<FirstRun>) => {
            // What somebody chose stays; otherwise the money follows the country.
            const currency = country && currencyOf(country);
            if (currency && !form.isFieldTouched('currency')) form.setFieldValue('currency', currency);
          }}
          initialValues={{
            currency: currencyOf(likelyCountry()) ?? 'EUR',
            fiscalYearStart: 1,
            weekStart: 1,
            country: likelyCountry(),
            timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
          }}
        >
          <Form.Item name="name" label="Organisation" rules={required('Enter its name')}>
            <Input autoFocus />
          </Form.Item>
          <div className="form-pair">
            <Form.Item name="country" label="Country">
              <Select showSearch={{ optionFilterProp: 'label' }} options={countries} />
            </Form.Item>
            <Form.Item name="currency" label="Currency">
              <Select showSearch options={currencies} />
            </Form.Item>
            <Form.Item name="timeZone" label="Time zone">
              <Select showSearch options={timeZones} />
            </Form.Item>
            <Form.Item name="fiscalYearStart" label="Fiscal year begins in">
              <Select options={months} />
            </Form.Item>
            <Form.Item name="weekStart" label="Week begins on">
              <Select options={weekDays} />
            </Form.Item>
          </div>
          <h2>You</h2>
          <Form.Item name={['person', 'name']} label="Your name" rules={required('Enter your name')}>
            <Input autoComplete="name" />
          </Form.Item>
          <Form.Item name={['person', 'email']} label="Email" rules={required('Enter your email address')}>
            <Input autoComplete="username" />
          </Form.Item>
          <Form.Item
            name={['person', 'password']}
            label="Password, at least 10 characters"
            rules={required('Choose a password')}
          >
            <Input.Password autoComplete="new-password" />
          </Form.Item>
          <Button type="primary" htmlType="submit" block>
            Create the organisation
          </Button>
        </Form>
      </main>
    </div>
  );
}
