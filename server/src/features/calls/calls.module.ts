import { Module } from '@nestjs/common';
import { CallLists } from './call-lists';
import { CallListsController } from './call-lists.controller';
import { Calls } from './calls';
import { CallsController } from './calls.controller';
import { Phone } from './phone';
import { PhoneNumbers } from './phone-numbers';
import { PhoneStandIn } from './phone-stand-in';

/** Calls from here and to here; a real exchange takes the stand-in’s place. */
@Module({
  controllers: [CallsController, CallListsController],
  providers: [CallLists, Calls, PhoneNumbers, { provide: Phone, useClass: PhoneStandIn }],
})
export class CallsModule {}
