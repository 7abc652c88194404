import { Module } from '@nestjs/common';
import { Calls } from './calls';
import { CallsController } from './calls.controller';
import { Phone } from './phone';
import { PhoneStandIn } from './phone-stand-in';

/** Calls from here and to here; a real exchange takes the stand-in’s place. */
@Module({
  controllers: [CallsController],
  providers: [Calls, { provide: Phone, useClass: PhoneStandIn }],
})
export class CallsModule {}
