import { RequestMethod, type Type } from '@nestjs/common';
import {
  HTTP_CODE_METADATA,
  METHOD_METADATA,
  PATH_METADATA,
  ROUTE_ARGS_METADATA,
} from '@nestjs/common/constants';
import { RouteParamtypes } from '@nestjs/common/enums/route-paramtypes.enum';
import { MetadataScanner, type DiscoveryService } from '@nestjs/core';
import { type Schema } from 'joi';
import { type Act, type ObjectKey, type TokenScope } from '@zawn/core';
import { RAW } from '../../platform/http/body.guard';
import { CheckedBy, ToObject, ToRecordId } from '../../platform/http/checked';
import { GIVES, READS, VALUES, type ReadHeader, type RecordValues } from '../../platform/http/described';
import { PUBLIC } from '../../platform/sessions/current-actor';
import { MAY } from '../../platform/sessions/may';
import { scopesOf } from '../../platform/sessions/scopes';

/** A parameter in an address or behind its question mark. */
export interface Parameter {
  name: string;
  in: 'path' | 'query';
  isId: boolean;
  /** What it is checked by. */
  schema?: Schema;
}

/** A route of the API as its handler declares it, by decorators. */
export interface Route {
  /** `DealsController.win` */
  handler: string;
  method: 'get' | 'post' | 'patch' | 'put' | 'delete';
  /** `/v1/deals/:id/win`, without what every address of the API begins with. */
  path: string;
  /** The status of a request that went well. */
  status: number;
  parameters: Parameter[];
  /** What the body, or everything behind the question mark, is checked by. */
  body?: Schema;
  query?: Schema;
  /** Every field filters. */
  takesFilters: boolean;
  takesBytes: boolean;
  values?: RecordValues;
  headers: ReadHeader[];
  /** The media types of the file it answers with. */
  gives?: string[];
  /** The objects that `:objects` in the path stands for: undefined where there is no such part, all for `'all'`. */
  objects?: readonly ObjectKey[] | 'all';
  isPublic: boolean;
  /** What a person must be allowed to do. */
  act?: Act;
  /** The tokens it is open to. */
  scopes: TokenScope[];
}

interface Argument {
  data?: unknown;
  pipes?: unknown[];
}

type Handler = (...given: unknown[]) => unknown;

const METHODS: Partial<Record<RequestMethod, Route['method']>> = {
  [RequestMethod.GET]: 'get',
  [RequestMethod.POST]: 'post',
  [RequestMethod.PATCH]: 'patch',
  [RequestMethod.PUT]: 'put',
  [RequestMethod.DELETE]: 'delete',
};

const API = '/api';

/** All routes of the API, found in the controllers of the running application. */
export function routesIn(discovery: DiscoveryService): Route[] {
  const scanner = new MetadataScanner();
  return discovery.getControllers().flatMap(({ metatype, instance }) => {
    const controller = metatype as Type;
    const prototype = Object.getPrototypeOf(instance) as Record<string, Handler>;
    return scanner
      .getAllMethodNames(prototype)
      .filter((name) => Reflect.hasMetadata(METHOD_METADATA, prototype[name]))
      .map((name) => routeOf(controller, name, prototype[name]))
      .filter((route) => route !== undefined);
  });
}

function routeOf(controller: Type, name: string, handler: Handler): Route | undefined {
  const own = <T>(key: string) => Reflect.getMetadata(key, handler) as T | undefined;
  const either = <T>(key: string) => own<T>(key) ?? (Reflect.getMetadata(key, controller) as T | undefined);
  const parts = [Reflect.getMetadata(PATH_METADATA, controller) as string, own<string>(PATH_METADATA) ?? ''];
  const path = `/${parts
    .flatMap((part) => part.split('/'))
    .filter(Boolean)
    .join('/')}`;
  const method = METHODS[own<RequestMethod>(METHOD_METADATA) ?? RequestMethod.ALL];
  if (!method || !path.startsWith(`${API}/`)) return undefined;
  const takes = argumentsOf(controller, name);
  const [body, query] = [takes.schema(RouteParamtypes.BODY), takes.schema(RouteParamtypes.QUERY)];
  const [values, gives, act] = [own<RecordValues>(VALUES), own<string[]>(GIVES), either<Act>(MAY)];
  const objects = takes.objects();
  return {
    handler: `${controller.name}.${name}`,
    method,
    path: path.slice(API.length),
    status: own<number>(HTTP_CODE_METADATA) ?? (method === 'post' ? 201 : 200),
    parameters: takes.parameters(),
    ...(body ? { body } : {}),
    ...(query ? { query } : {}),
    takesFilters: takes.filters(),
    takesBytes: own<boolean>(RAW) ?? false,
    ...(values ? { values } : {}),
    headers: own<ReadHeader[]>(READS) ?? [],
    ...(gives ? { gives } : {}),
    ...(objects ? { objects } : {}),
    isPublic: own<boolean>(PUBLIC) ?? false,
    ...(act ? { act } : {}),
    scopes: scopesOf(controller, handler, method),
  };
}

/** What the parameters of a handler take from a request. */
function argumentsOf(controller: Type, name: string) {
  const all = Object.entries(
    (Reflect.getMetadata(ROUTE_ARGS_METADATA, controller, name) ?? {}) as Record<string, Argument>,
  );
  const ofKind = (kind: RouteParamtypes) =>
    all.filter(([key]) => key.startsWith(`${kind}:`)).map(([, argument]) => argument);
  const piped = <T>(arguments_: Argument[], pipe: abstract new (...given: never[]) => T) =>
    arguments_.flatMap(({ pipes = [] }) => pipes).find((each): each is T => each instanceof pipe);
  const named = (kind: RouteParamtypes, place: Parameter['in']) =>
    ofKind(kind).flatMap((argument): Parameter[] =>
      typeof argument.data === 'string' && argument.data !== 'objects'
        ? [parameterOf(argument, argument.data, place)]
        : [],
    );
  const parameterOf = (argument: Argument, parameter: string, place: Parameter['in']): Parameter => {
    const checkedBy = piped([argument], CheckedBy);
    return {
      name: parameter,
      in: place,
      isId: piped([argument], ToRecordId) !== undefined,
      ...(checkedBy ? { schema: checkedBy.schema } : {}),
    };
  };
  return {
    parameters: () => [...named(RouteParamtypes.PARAM, 'path'), ...named(RouteParamtypes.QUERY, 'query')],
    schema: (kind: RouteParamtypes) => piped(ofKind(kind), CheckedBy)?.schema,
    filters: () =>
      ofKind(RouteParamtypes.QUERY).some(({ data, pipes = [] }) => data === undefined && pipes.length === 0),
    objects: () => {
      const noun = piped(ofKind(RouteParamtypes.PARAM), ToObject);
      return noun && (noun.objects ?? ('all' as const));
    },
  };
}
