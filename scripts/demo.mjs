import { build, dataFolder, install, options, run, say, start, stop } from './steps.mjs';

const given = options(['--fresh', '--large']);
install();
build();

const isLarge = given.has('--large');
// The large set is kept beside the small one.
const env = {
  ZAWN_DATA: dataFolder(isLarge ? 'large' : 'demo'),
  ZAWN_DEMO: '1',
  ZAWN_LARGE: isLarge ? '1' : '0',
  ZAWN_FRESH: given.has('--fresh') ? '1' : '0',
};
if (isLarge) say('The large set takes some minutes to write the first time.');
say(given.has('--fresh') ? 'Beginning again with the demo company …' : 'Opening the demo company …');
if (!run(process.execPath, ['server/dist/demo/main.js'], { env })) process.exit(1);

const port = process.env.PORT ?? '4620';
const mailPort = process.env.ZAWN_MAIL_PORT ?? '4625';
say(`
Sign in at http://localhost:${port} with one click on a person, or with a mail address and the password brackwater:
  tamsin.rudd@brackwater.example      rep, Harbours & Coast
  maren.ollerby@brackwater.example    sales manager, Harbours & Coast
  signe.abernock@brackwater.example   director of sales
  bram.tideswell@brackwater.example   sales operations
Beside it: the company's website with a form at http://localhost:${port}/stand-ins/website, and a mail
stand-in on port ${mailPort} (npm run sample-mails sends some to hello@brackwater.example).
`);
start(process.execPath, ['server/dist/launch.js'], env).on('error', () =>
  stop('The server could not be started.'),
);
