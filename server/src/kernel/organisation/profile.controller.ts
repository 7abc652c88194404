import { Controller, Delete, Get, HttpCode, Patch, Query, Req, Res } from '@nestjs/common';
import { type Request, type Response } from 'express';
import Joi from 'joi';
import {
  LARGEST_PHOTO,
  mediaTypeOf,
  weekdayKeys,
  type AnyRecord,
  type Profile,
  type Written,
} from '@zawn/core';
import { TakesBytes } from '../../platform/http/body.guard';
import { CheckedBody, RecordId, type CheckedAs } from '../../platform/http/checked';
import { Gives } from '../../platform/http/described';
import { invalidInput, notFound } from '../../platform/http/problem';
import { KeptFiles, type Kept } from '../files/kept-files';
import { ByHand } from '../records/by-hand';
import { Door, type WriteContext } from '../records/door';
import { Organisation } from './organisation';

const PICTURES = ['image/png', 'image/jpeg', 'image/webp'];
/** A photo shown in the browser can run nothing and reach nothing. */
const PHOTO_POLICY = "default-src 'none'; sandbox";

const text = Joi.string().max(2000).allow(null);
// What each may hold the catalogue says.
const profile = Joi.object<Partial<Omit<Profile, 'photo'>>>({
  name: Joi.string().max(200),
  jobTitle: text,
  timeZone: text,
  workingDays: Joi.array()
    .items(Joi.string().valid(...weekdayKeys))
    .max(weekdayKeys.length)
    .allow(null),
  opens: text,
  closes: text,
  signature: text,
});

const wrong = (message: string) => invalidInput([{ field: 'photo', message: `Photo: ${message}` }]);

/** What people say about themselves, which everybody may for their own entry. */
@Controller('api/v1')
export class ProfileController {
  constructor(
    private readonly door: Door,
    private readonly files: KeptFiles,
    private readonly organisation: Organisation,
  ) {}

  /** Changes some of what the person says about themselves; the rest stays. */
  @Patch('session/profile')
  change(
    @ByHand() writing: WriteContext,
    @CheckedBody(profile) values: CheckedAs<typeof profile>,
  ): Promise<Written<AnyRecord>> {
    return this.write(writing, { ...values }, 'Changed your profile');
  }

  /** Puts a photo of the person in the place of the one before: the body is a PNG, JPEG or WebP picture. */
  @TakesBytes()
  @Patch('session/photo')
  async putPhoto(@ByHand() writing: WriteContext, @Req() request: Request): Promise<Written<AnyRecord>> {
    const onTheWay = (bytes: number) => {
      if (bytes > LARGEST_PHOTO) throw wrong('choose a smaller one, of 400 kB at most');
    };
    const whole = ({ head }: Kept) => {
      if (!PICTURES.includes(mediaTypeOf(head))) throw wrong('choose a PNG, JPEG or WebP picture');
    };
    const { hash } = await this.files.keepStream(request, { onTheWay, whole });
    return this.write(writing, { photo: hash }, 'Changed your photo');
  }

  /** Takes the person's photo away. */
  @Delete('session/photo')
  @HttpCode(200)
  removePhoto(@ByHand() writing: WriteContext): Promise<Written<AnyRecord>> {
    return this.write(writing, { photo: null }, 'Took your photo away');
  }

  /** The photo of a colleague: that one only, where it is named by its fingerprint. */
  @Gives('application/octet-stream')
  @Get('people/:id/photo')
  async photo(
    @RecordId() id: number,
    @Query('photo') named: string | undefined,
    @Res() response: Response,
  ): Promise<void> {
    const photo = (await this.organisation.people()).find((person) => person.id === id)?.photo;
    if (photo === undefined || (named !== undefined && named !== photo)) throw notFound('This photo');
    response.setHeader('Content-Security-Policy', PHOTO_POLICY);
    // Another picture has another address, where that names it.
    response.setHeader(
      'Cache-Control',
      named === undefined ? 'private, no-cache' : 'private, max-age=31536000, immutable',
    );
    response.type(mediaTypeOf(await this.files.head(photo)));
    response.sendFile(this.files.pathOf(photo), { cacheControl: false, etag: false });
  }

  private write(writing: WriteContext, values: Partial<Profile>, label: string): Promise<Written<AnyRecord>> {
    const { personId } = writing.actor;
    return this.door.write(writing, async (unit) => {
      const person = await unit.change('person', personId, values, {
        setter: 'photo' in values ? 'feature' : 'hand',
        permittedBy: 'oneself',
      });
      unit.label = label;
      return person;
    });
  }
}
