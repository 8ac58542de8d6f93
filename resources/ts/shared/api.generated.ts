// Made by resources/build/api-types.mjs from app/OpenApi/answers.yaml; not to be changed by hand.
import type { Choice, Design, LegendLine, Look, Peg, PegHead, ProposedTile, RuleTrees } from './types'

export type paths = Record<string, never>
export type webhooks = Record<string, never>
export interface components {
  schemas: {
    /** Format: date-time */
    Instant: string
    /** Format: date */
    Day: string
    /** Format: uuid */
    Uuid: string
    Box: [number, number, number, number]
    Geometry: GeoJSON.Geometry
    Features: GeoJSON.FeatureCollection
    Value: string | number | boolean | string[] | null
    Values: {
      [key: string]: components['schemas']['Value']
    }
    Spot: {
      lon: number
      lat: number
    }
    Problem: {
      code: string
      field: string | null
      value: unknown
      params: Record<string, string | number | null>
      message: string
    }
    Failure: {
      type: string
      status: number
      code: string
      title: string
      problems: components['schemas']['Problem'][]
    }
    /** @enum {string} */
    GeometryKind: 'point' | 'line' | 'area'
    /** @enum {string} */
    FieldKind:
      | 'short_text'
      | 'long_text'
      | 'whole_number'
      | 'decimal'
      | 'yes_no'
      | 'date'
      | 'time'
      | 'date_time'
      | 'one_choice'
      | 'several_choices'
      | 'calculated'
      | 'heading'
    /** @enum {string} */
    Role: 'coordinator' | 'maker' | 'crew' | 'guest'
    /** @enum {string} */
    Audience: 'me' | 'some' | 'programme' | 'link'
    OptionalText: string | null
    Done: {
      ok: boolean
    }
    Me: {
      id: number
      name: string
      email: string
      second_factor: boolean
      second_demanded: boolean
      unwanted_mails: string[]
      /** @enum {unknown} */
      language: 'en' | 'de' | null
      roles: components['schemas']['ProgrammeRole'][]
    }
    AddressChange: {
      name: string
      email: string
    }
    SecondBegun: {
      secret: string
      address: string
    }
    SecondCodes: {
      codes: string[]
    }
    ProgrammeRole: {
      programme: number
      role: components['schemas']['Role']
    }
    Device: {
      id: string
      agent: string
      address: string | null
      seen_at: components['schemas']['Instant']
      here: boolean
    }
    About: {
      demo: components['schemas']['AboutDemo'] | null
    }
    AboutDemo: {
      coordinator: string
      crew: string
      password: string
    }
    InvitationView: {
      programme: string
      name: string
      email: string
      role: components['schemas']['Role']
      many: boolean
    }
    Invited: {
      id: number
      name: string
      email: string
      role: components['schemas']['Role']
      most: number | null
      used: number
      groups: number[]
      expires_at: components['schemas']['Instant']
    }
    ManyInvited: {
      address: string
      code: string
    }
    InvitedLine: {
      line: number
      text: string
      name: string
      email: string
      /** @enum {string} */
      outcome: 'invited' | 'added' | 'there' | 'refused'
      address: string | null
      problem: string | null
    }
    GroupPerson: {
      id: number
      name: string
    }
    Group: {
      id: number
      name: string
      may_change: boolean
      members_seen: boolean
      people: components['schemas']['GroupPerson'][] | null
    }
    Crew: {
      id: number
      name: string
    }
    LastPlace: {
      lon: number
      lat: number
      at: components['schemas']['Instant']
    }
    Person: {
      id: number
      name: string
      email: string
      role: components['schemas']['Role']
      makes: boolean
      second_factor: boolean
      groups: number[]
      crew: string | null
      last_heard_at: components['schemas']['Instant'] | null
      waiting: number
      place: components['schemas']['LastPlace'] | null
      battery: number | null
    }
    People: {
      people: components['schemas']['Person'][]
      crews: components['schemas']['Crew'][]
      invitations: components['schemas']['Invited'][]
    }
    AuditAbout: Record<string, string | number | null>
    AuditEntry: {
      id: number
      at: components['schemas']['Instant']
      who: string
      kind: string
      about: components['schemas']['AuditAbout']
    }
    AuditPage: {
      entries: components['schemas']['AuditEntry'][]
      more: boolean
    }
    Address: {
      address: string
    }
    Mail: {
      id: number
      to: string
      subject: string
      text: string
      sent_at: components['schemas']['Instant']
    }
    Health: {
      status: string
      database: boolean
      storage: boolean
      room: boolean
      queue: boolean
      version: string
    }
    Programme: {
      id: number
      name: string
      purpose: string
      time_zone: string
      area: components['schemas']['Box']
      photo_edge: number | null
      second_factor: boolean
      role: components['schemas']['Role']
      makes: boolean
    }
    Stages: {
      plan: {
        people: number
        questions: number
        open: number
      }
      build: {
        layers: number
      }
      collect: {
        crew: number
        waiting: number
      }
      check: {
        disputes: number
        answers: number
        asked: number
        waiting: number
        today: number
        records: number
      }
      publish: {
        live: number
        all: number
      }
    }
    ProgrammeWithStages: {
      id: number
      name: string
      purpose: string
      time_zone: string
      area: components['schemas']['Box']
      photo_edge: number | null
      second_factor: boolean
      role: components['schemas']['Role']
      makes: boolean
      stages: components['schemas']['Stages']
    }
    /** @enum {string} */
    ThingKind: 'programme' | 'layer' | 'map' | 'board'
    Thing: {
      kind: components['schemas']['ThingKind']
      id: number
      programme: number
      title: string
      shelf: number | null
      tags: string[]
      purposes: string[]
      starred: boolean
      owner: string | null
      shared: boolean
      changed_at: components['schemas']['Instant'] | null
      deleted_at: components['schemas']['Instant'] | null
      gone_on: components['schemas']['Day'] | null
    }
    ProgrammeThing: {
      name: string
      purpose: string
      time_zone: string
      area: components['schemas']['Box']
      photo_edge: number | null
      second_factor: boolean
      role: components['schemas']['Role']
      makes: boolean
      kind: components['schemas']['ThingKind']
      id: number
      programme: number
      title: string
      shelf: number | null
      tags: string[]
      purposes: string[]
      starred: boolean
      owner: string | null
      shared: boolean
      changed_at: components['schemas']['Instant'] | null
      deleted_at: components['schemas']['Instant'] | null
      gone_on: components['schemas']['Day'] | null
    }
    Shelf: {
      id: number
      name: string
    }
    ThingList: {
      things: components['schemas']['Thing'][]
      shelves: components['schemas']['Shelf'][]
      purposes: string[]
      owners: components['schemas']['Owner'][]
    }
    Owner: {
      id: number
      name: string
    }
    FoundThing: {
      /** @enum {string} */
      kind: 'programme' | 'layer' | 'field' | 'map' | 'board' | 'outing' | 'list' | 'question' | 'record'
      id: number | string
      programme: number
      title: string
      under: string
      layer?: number
    }
    StorageUse: {
      files: number
      brought: number
      taken_out: number
      used: number
      quota: number
      free: number
    }
    QuestionField: {
      layer: number
      key: string
      label?: string
      of?: string
    }
    QuestionTile: {
      board: number
      tile: string
      title?: string
      of?: string
    }
    Question: {
      id: string
      text: string
      note: string
      fields: components['schemas']['QuestionField'][]
      tile: components['schemas']['QuestionTile'] | null
      /** @enum {string} */
      state: 'open' | 'no_tile' | 'answered'
    }
    ReadyLine: {
      code: string
      holds: boolean
      /** @enum {string} */
      fix:
        | 'rights'
        | 'photos'
        | 'people'
        | 'area'
        | 'map'
        | 'trial'
        | 'layer'
        | 'questions'
        | 'pack'
        | 'seen'
        | 'check'
        | 'info'
      layer: number | null
      message: string
      why: string
    }
    Outing: {
      id: number
      title: string
      note: string
      crew: number | null
      crew_name: string | null
      from: components['schemas']['Day']
      to: components['schemas']['Day']
      area: components['schemas']['Box'] | null
      layers: number[]
      /** @enum {string} */
      target: 'none' | 'records' | 'visits'
      count: number | null
      checklist: string[]
      progress: components['schemas']['OutingProgress']
    }
    OutingProgress: {
      done: number
      wanted: number | null
      due: number
      /** @enum {string} */
      state: 'ahead' | 'on' | 'behind' | 'done' | 'open'
      /** @enum {string} */
      when: 'ahead' | 'now' | 'over'
    }
    DesignSheet: {
      programme: string
      purpose: string
      time_zone: string
      schema: string
      layers: components['schemas']['Design'][]
    }
    DesignsRead: {
      designs: components['schemas']['Design'][]
      notes: string[]
    }
    Design: Design
    ValueSchema: object
    RuleTrees: RuleTrees
    Peg: Peg
    Look: Look
    SourceOptions: Record<string, unknown>
    StyleLayers: unknown[]
    LegendLine: LegendLine
    DesignChecked: {
      design: components['schemas']['Design']
      value_schema: components['schemas']['ValueSchema']
      rules: components['schemas']['RuleTrees']
      results: {
        [key: string]: string
      }
      look: components['schemas']['Look']
    }
    DesignEffect: {
      code: string
      field: string
      label: string
      /** @enum {string} */
      outcome: 'kept' | 'converted' | 'decide'
      count: number
      message: string
      /** @enum {unknown} */
      asks: 'choice' | 'fill' | null
      options: string[]
      choice: string | null
    }
    DesignReview: {
      current: number
      stale: boolean
      effects: components['schemas']['DesignEffect'][]
      problems: components['schemas']['Problem'][]
      merged?: components['schemas']['Design']
      theirs?: string[]
      clashes?: components['schemas']['DesignClash'][]
    }
    DesignClash: {
      what: string
      part: string
      mine: unknown
    }
    Starter: {
      key: string
      design: components['schemas']['Design']
    }
    LayerRights: {
      add: boolean
      design: boolean
      sees_all: boolean
      change: boolean
      delete: boolean
    }
    LayerSeen: {
      /** @enum {string} */
      place: 'exact' | 'cell' | 'area' | 'none'
      metres: number | null
      fields: string[]
      photos: boolean
    }
    Layer: {
      id: number
      programme: number
      design_version: number
      visits_of: number | null
      visits_layer: number | null
      design: components['schemas']['Design']
      value_schema: components['schemas']['ValueSchema']
      rules: components['schemas']['RuleTrees']
      results: {
        [key: string]: string
      }
      look: components['schemas']['Look']
      seen: components['schemas']['LayerSeen']
      rights: components['schemas']['LayerRights']
    }
    LayerLine: {
      id: number
      title: string
      purpose: string
      geometry: components['schemas']['GeometryKind']
      visits_of: number | null
      fields: number
      design_version: number
      records: number
      peg: components['schemas']['LegendLine']
    }
    Choice: Choice
    SharedList: {
      id: number
      title: string
      version: number
      choices: components['schemas']['Choice'][]
      used_by: components['schemas']['ListUse'][]
    }
    ListUse: {
      layer: number
      title: string
      key: string
      label: string
    }
    ListReview: {
      current: number
      missed: components['schemas']['MissedChoice'][]
    }
    MissedChoice: {
      code: string
      label: string
      count: number
      layers: string[]
    }
    FormulaFunctions: {
      groups: components['schemas']['FormulaGroup'][]
    }
    FormulaGroup: {
      key: string
      label: string
      functions: components['schemas']['FormulaFunction'][]
    }
    FormulaFunction: {
      name: string
      write: string
      hint: string
    }
    FormulaTrial: {
      type: string
      tries: components['schemas']['FormulaTry'][]
    }
    FormulaTry: {
      id: components['schemas']['Uuid']
      name: string | null
      value: components['schemas']['Value']
    }
    Slice: {
      id: number
      name: string
      filter: unknown
    }
    SliceTrial: {
      found: number
      of: number
      name: string
    }
    HistogramBar: {
      from: number
      to: number
      count: number
    }
    FieldSpread: {
      count: number
      missing: number
      least: number | null
      most: number | null
      mean: number | null
      bars: components['schemas']['HistogramBar'][]
    }
    NumberClasses: {
      look: components['schemas']['Look']
      counts: number[]
      spread: components['schemas']['FieldSpread']
      fit: number | null
    }
    /** @enum {string} */
    FilterTest:
      | 'is'
      | 'is_not'
      | 'one_of'
      | 'none_of'
      | 'contains'
      | 'has'
      | 'has_not'
      | 'at_least'
      | 'at_most'
      | 'between'
      | 'since'
      | 'until'
      | 'last_days'
      | 'today'
      | 'this_week'
      | 'missing'
      | 'there'
      | 'in_area'
      | 'in_shape'
      | 'within'
    AskableChoice: {
      code: string
      label: string
    }
    AskableSubject: {
      field: string
      /** @enum {string} */
      of: 'record' | 'visit'
      label: string
      kind: components['schemas']['FieldKind'] | null
      unit: string | null
      tests: components['schemas']['FilterTest'][]
      choices: components['schemas']['AskableChoice'][]
    }
    AskableArea: {
      record: components['schemas']['Uuid']
      name: string
    }
    AskableAreas: {
      layer: number
      title: string
      areas: components['schemas']['AskableArea'][]
    }
    Askable: {
      subjects: components['schemas']['AskableSubject'][]
      crews: components['schemas']['Crew'][]
      areas: components['schemas']['AskableAreas'][]
    }
    OwnMark: {
      head: PegHead
      name: string
      address: string
    }
    Format: {
      format: string
      losses: string[]
    }
    Photo: {
      id: components['schemas']['Uuid']
      /** @enum {string} */
      state: 'on_way' | 'stored' | 'refused'
      name: string
      type: string
      slot: string | null
    }
    Fix: {
      satellites?: number
      type?: string
      at?: string
    }
    RecordRow: {
      id: components['schemas']['Uuid']
      version: number
      lon: number | null
      lat: number | null
      /** @enum {string} */
      place?: 'cell' | 'area' | 'none'
      geometry?: components['schemas']['Geometry'] | null
      length?: number | null
      area?: number | null
      altitude: number | null
      fix: components['schemas']['Fix'] | null
      visited?: components['schemas']['Uuid']
      visited_name?: string | null
      visits?: number
      visited_at?: components['schemas']['Day'] | components['schemas']['Instant'] | null
      accuracy: number | null
      collected_at: components['schemas']['Instant']
      received_at: components['schemas']['Instant']
      author: string | null
      accepted: components['schemas']['Accepted'] | null
      values: components['schemas']['Values']
      name: string | null
      photos: components['schemas']['Photo'][]
      flags?: components['schemas']['Flag'][]
    }
    /** @enum {string} */
    FlagKind: 'outside' | 'fix' | 'double' | 'outlier' | 'files' | 'speed' | 'future'
    Flag: {
      kind: components['schemas']['FlagKind']
      text: string
      other: components['schemas']['Uuid'] | null
    }
    Flagged: {
      all: number
      kinds: components['schemas']['FlagCount'][]
    }
    FlagCount: {
      kind: components['schemas']['FlagKind']
      n: number
    }
    FlagDouble: {
      metres: number
      hours: number
    }
    FlagRules: {
      outside: boolean
      areas: number | null
      fix: number | null
      double: components['schemas']['FlagDouble'] | null
      outlier: boolean
      files: boolean
      speed: number | null
      future: boolean
      without: string[]
    }
    AreasToLieIn: {
      id: number
      title: string
    }
    LayerFlags: {
      rules: components['schemas']['FlagRules']
      usual: components['schemas']['FlagRules']
      single_places: boolean
      areas: components['schemas']['AreasToLieIn'][]
      flagged: components['schemas']['Flagged']
    }
    Accepted: {
      at: components['schemas']['Instant']
      by: string | null
    }
    RecordPage: {
      total: number
      page_size: number
      to_check?: number
      as_of?: string
      flagged?: components['schemas']['Flagged']
      next: string | null
      records: components['schemas']['RecordRow'][]
    }
    Acceptance: {
      done: number
      changed: number
      at: components['schemas']['Instant'] | null
      to_check: number
    }
    VisitsOfRecord: {
      layer: number | null
      records: components['schemas']['RecordRow'][]
    }
    Working: {
      /** @enum {string} */
      cause: 'visits' | 'areas' | 'formulas' | 'import' | 'design' | 'day'
      at: components['schemas']['Instant']
      by: string | null
      all: boolean
      fields: string[]
      was: components['schemas']['Values']
    }
    RecordVersion: {
      version: number
      /** @enum {string} */
      kind: 'add' | 'change' | 'delete' | 'restore' | 'import'
      author: string | null
      at: components['schemas']['Instant']
      captured_at: components['schemas']['Instant'] | null
      clock_off: number | null
      design: number
      lon: number
      lat: number
      altitude: number | null
      geometry: components['schemas']['Geometry'] | null
      values: components['schemas']['Values']
      changed: string[]
      moved: boolean
      workings: components['schemas']['Working'][]
    }
    AskedRow: {
      id: number
      layer: number
      record: components['schemas']['Uuid']
      name: string | null
      text: string
      by: string | null
      to: string | null
      at: components['schemas']['Instant']
      answer: string | null
      answered_at: components['schemas']['Instant'] | null
      closed_at: components['schemas']['Instant'] | null
    }
    RecordWithFate: {
      id: components['schemas']['Uuid']
      version: number
      lon: number | null
      lat: number | null
      /** @enum {string} */
      place?: 'cell' | 'area' | 'none'
      geometry?: components['schemas']['Geometry'] | null
      length?: number | null
      area?: number | null
      altitude: number | null
      fix: components['schemas']['Fix'] | null
      visited?: components['schemas']['Uuid']
      visited_name?: string | null
      visits?: number
      visited_at?: components['schemas']['Day'] | components['schemas']['Instant'] | null
      accuracy: number | null
      collected_at: components['schemas']['Instant']
      received_at: components['schemas']['Instant']
      author: string | null
      accepted: components['schemas']['Accepted'] | null
      values: components['schemas']['Values']
      name: string | null
      photos: components['schemas']['Photo'][]
      flags?: components['schemas']['Flag'][]
      deleted: boolean
    }
    /** @enum {string} */
    Side: 'mine' | 'theirs'
    ConflictValue: {
      key: string
      label: string
      value: string | null
      was: string | null
    }
    ConflictClash:
      | {
          key: string
          label: string | null
          stands: components['schemas']['Side']
          was: string | null
          theirs: string | null
          mine: string | null
        }
      | {
          /** @constant */
          key: '@place'
          label: null
          stands: components['schemas']['Side']
          was: components['schemas']['Geometry'] | null
          theirs: components['schemas']['Geometry']
          mine: components['schemas']['Geometry']
        }
      | {
          /** @constant */
          key: '@altitude'
          label: null
          stands: components['schemas']['Side']
          was: number | null
          theirs: number | null
          mine: number | null
        }
      | {
          /** @constant */
          key: '@deleted'
          label: null
          stands: components['schemas']['Side']
          was: boolean
          theirs: boolean
          mine: boolean
        }
    Settlement: {
      choose?: {
        [key: string]: components['schemas']['Side']
      }
      take?: boolean
    }
    Conflict: {
      id: number
      /** @enum {string} */
      kind: 'clash' | 'held'
      layer: number
      layer_title: string
      record: components['schemas']['RecordWithFate'] | null
      record_id: components['schemas']['Uuid']
      name: string | null
      /** @enum {string} */
      does: 'add' | 'visit' | 'change' | 'move' | 'delete' | 'restore'
      by: string | null
      captured_at: components['schemas']['Instant']
      received_at: components['schemas']['Instant']
      theirs_by: string | null
      theirs_at: components['schemas']['Instant'] | null
      geometry: components['schemas']['Geometry'] | null
      values: components['schemas']['ConflictValue'][]
      clashes: components['schemas']['ConflictClash'][]
      reasons: components['schemas']['Problem'][]
      photos: components['schemas']['Photo'][]
      settled_at: components['schemas']['Instant'] | null
      settled_by: string | null
      settlement: components['schemas']['Settlement'] | null
    }
    Conflicts: {
      open: number
      disputes: components['schemas']['Conflict'][]
    }
    Fill: {
      id: number
      /** @enum {string} */
      state: 'working' | 'done' | 'undone' | 'failed'
      field: string
      changed: number
      skipped: number
      kept: number
    }
    FillPreview: {
      records: number
      shown: components['schemas']['FillShown'][]
    }
    FillShown: {
      id: components['schemas']['Uuid']
      name: string | null
      before: string | null
      after: string | null
    }
    Candidate: {
      name: string
      of: string
      lon: number
      lat: number
      score: number
    }
    ReadPlace: {
      lon: number
      lat: number
      as: string
      said: string
    }
    /** @enum {string} */
    ImportState: 'sending' | 'reading' | 'review' | 'landing' | 'done' | 'failed' | 'cancelled' | 'undone'
    /** @enum {string} */
    ImportMode: 'new' | 'append' | 'update' | 'attach'
    ImportFile: {
      name: string
      bytes: number
      sha256: string | null
    }
    Undone: {
      deleted: number
      restored: number
      kept: number
      names: string[]
      layer_binned: boolean
    }
    ImportCounts: {
      read?: number
      made?: number
      waiting?: number
      changed?: number
      unchanged?: number
      skipped?: number
      swapped?: number
      sign?: number
      outside?: number
      matched?: number
      emptied?: number
      clock?: number
      memory?: number
      undo?: components['schemas']['Undone']
    }
    ImportLine: {
      id: number
      programme: number
      state: components['schemas']['ImportState']
      files: components['schemas']['ImportFile'][]
      by: string | null
      at: components['schemas']['Instant']
      layer: number | null
      layer_title: string | null
      counts: components['schemas']['ImportCounts'] | null
      problems: components['schemas']['Problem'][] | null
      progress: number | null
      mode: components['schemas']['ImportMode']
      rows: number | null
    }
    ImportTable: {
      name: string
      rows: number
      geometry?: string | null
    }
    ImportSource: {
      /** @enum {string} */
      kind: 'csv' | 'sheet' | 'geo' | 'photos'
      tables: components['schemas']['ImportTable'][]
      table?: string | null
      system?: string | null
      given?: string | null
      wkt?: boolean
      wkt_column?: number
      turned?: boolean
    }
    /** @enum {unknown} */
    DateOrder: 'dmy' | 'mdy' | 'ymd' | null
    ImportedColumn: {
      name: string
      kind: components['schemas']['FieldKind']
      confidence: number
      order: components['schemas']['DateOrder']
      comma: boolean
      samples: string[]
      filled: number
      empty: number
      distinct: {
        [key: string]: number
      } | null
    }
    ImportReading: {
      rows: number
      columns: components['schemas']['ImportedColumn'][]
      geometry: components['schemas']['GeometryKind']
      shapes: {
        [key: string]: number
      }
      notes: string[]
    }
    ImportColumn: {
      take: boolean
      key: string
      label: string
      kind: components['schemas']['FieldKind']
      order: components['schemas']['DateOrder']
      comma: boolean
      with: number | null
    }
    ImportLocation: {
      /** @enum {string} */
      way: 'pair' | 'text' | 'geometry' | 'none'
      columns: number[]
      system: string
      mend?: boolean
      match?: number
    }
    ImportSettings: {
      title: string
      mode: components['schemas']['ImportMode']
      layer: number | null
      within: number
      shape: components['schemas']['GeometryKind'] | null
      table: string
      head_row: number
      zone: string
      names: string[]
      columns: components['schemas']['ImportColumn'][]
      location: components['schemas']['ImportLocation']
      /** @enum {string} */
      unfit: 'wait' | 'empty'
      key_column: number | null
      new_choices: boolean
      /** @enum {string} */
      empties: 'leave' | 'clear'
      /** @enum {string} */
      conflicts: 'wait' | 'take'
      seen?: number | null
    }
    ImportWish: Partial<components[][]>
    ReviewRow: {
      row: number
      cells: string[]
      bad: {
        [key: string]: string
      }
      values: {
        [key: string]: components['schemas']['OptionalText']
      }
      place: string | null
      how: string | null
      problems: components['schemas']['Problem'][]
    }
    ReviewUnfit: {
      count: number
      rows: components['schemas']['UnfitCell'][]
    }
    UnfitCell: {
      row: number
      value: string | number | null
    }
    FilledField: {
      key: string
      label: string
    }
    ReviewWhy: {
      code: string
      count: number
      message: string
    }
    ChangedValue: {
      label: string
      before: string | null
      after: string | null
    }
    ReviewChange: {
      row: number
      name: string | null
      moved: boolean
      values: components['schemas']['ChangedValue'][]
    }
    ReviewUpdate: {
      changed: number
      unchanged: number
      added: number
      unclear: number
      shown: components['schemas']['ReviewChange'][]
    }
    ReviewCorrections: {
      swapped: number
      sign: number
      outside: number
      matched: number
      emptied: number
      clock: number
    }
    ImportReview: {
      tried: number
      ready: number
      placed: number
      waiting: number
      corrections: components['schemas']['ReviewCorrections']
      rows: components['schemas']['ReviewRow'][]
      points: [number, number, string][]
      geometry: components['schemas']['GeometryKind']
      unfit: components['schemas']['ReviewUnfit'][]
      why: components['schemas']['ReviewWhy'][]
      fields: components['schemas']['FilledField'][]
      undecided: number[]
      new_choices: {
        [key: string]: string[]
      }
      update: components['schemas']['ReviewUpdate'] | null
    }
    Import: {
      id: number
      programme: number
      state: components['schemas']['ImportState']
      files: components['schemas']['ImportFile'][]
      by: string | null
      at: components['schemas']['Instant']
      layer: number | null
      layer_title: string | null
      counts: components['schemas']['ImportCounts'] | null
      problems: components['schemas']['Problem'][] | null
      progress: number | null
      mode: components['schemas']['ImportMode']
      rows: number | null
      source: components['schemas']['ImportSource'] | null
      reading: components['schemas']['ImportReading'] | null
      settings: components['schemas']['ImportSettings'] | null
      review?: components['schemas']['ImportReview']
    }
    ImportBegun: {
      id: number
      programme: number
      state: components['schemas']['ImportState']
      files: components['schemas']['ImportFile'][]
      by: string | null
      at: components['schemas']['Instant']
      layer: number | null
      layer_title: string | null
      counts: components['schemas']['ImportCounts'] | null
      problems: components['schemas']['Problem'][] | null
      progress: number | null
      mode: components['schemas']['ImportMode']
      rows: number | null
      source: components['schemas']['ImportSource'] | null
      reading: components['schemas']['ImportReading'] | null
      settings: components['schemas']['ImportWish'] | null
      review?: components['schemas']['ImportReview']
    }
    FileOffset: {
      offset: number
      state: string
    }
    WaitingPlace: {
      candidates?: components['schemas']['Candidate'][]
      chosen?: components['schemas']['Spot']
    }
    WaitingRow: {
      row: number
      cells: string[]
      problems: components['schemas']['Problem'][]
      place: components['schemas']['WaitingPlace'] | null
      mended: boolean
    }
    Retried: {
      landed: number
      waiting: number
      import: components['schemas']['Import']
    }
    ImportUndone: {
      deleted: number
      restored: number
      kept: number
      names: string[]
      layer_binned: boolean
      import: components['schemas']['Import']
    }
    ReferenceSystem: {
      system: string
      name: string
      points: [number, number][]
      in_area: number
    }
    Export: {
      id: number
      /** @enum {string} */
      state: 'working' | 'done' | 'failed' | 'cancelled'
      name: string
      records: number
      bytes: number
      url: string | null
    }
    Places: {
      places: number
    }
    BackdropStyle: {
      attribution: string | null
      box: components['schemas']['Box'] | null
      zoom: number[] | null
      layers: unknown[]
      labels: unknown[]
    }
    Backdrop: {
      key: string
      address: string
      bytes: number
      version: string
      style: components['schemas']['BackdropStyle']
    }
    Viewpoint: {
      id: string
      title: string
      extent: components['schemas']['Box']
    }
    PackRights: {
      add: boolean
      change: components['schemas']['Whose']
      delete: components['schemas']['Whose']
      /** @enum {string} */
      see: 'all' | 'own'
    }
    /** @enum {string} */
    Whose: 'all' | 'own' | 'none'
    PackLayer: {
      id: number
      title: string
      visits_of: number | null
      design_version: number
      design: components['schemas']['Design']
      name_field: string | null
      value_schema: components['schemas']['ValueSchema']
      rules: components['schemas']['RuleTrees']
      look: components['schemas']['Look']
      style: components['schemas']['StyleLayers']
      records: number
      rights: components['schemas']['PackRights']
      seen: components['schemas']['LayerSeen']
    }
    PackSlice: {
      name: string
      filter: unknown
    }
    PackCounted: {
      slice: components['schemas']['PackSlice'] | null
      share: components['schemas']['PackSlice'] | null
      by: string
      unit: string
      few: string
    }
    PackMapLayer: {
      id: string
      layer: number
      title: string
      look: components['schemas']['Look']
      style: components['schemas']['StyleLayers']
      label: components['schemas']['MapLabel'] | null
      slice: components['schemas']['PackSlice'] | null
      counted: components['schemas']['PackCounted'] | null
      gather?: components['schemas']['SourceOptions'] | null
      by?: string | null
      legend?: components['schemas']['LegendLine'][] | null
      card?: components['schemas']['MapCard']
      visible: boolean
      in_legend: boolean
    }
    PackSearch: {
      id: string
      title: string
      part: string
      slice: components['schemas']['PackSlice']
    }
    PackMap: {
      id: number
      title: string
      layers: components['schemas']['PackMapLayer'][]
      extent: components['schemas']['Box']
      viewpoints: components['schemas']['Viewpoint'][]
      searches: components['schemas']['PackSearch'][]
    }
    Pack: {
      programme: number
      name: string
      crew: string | null
      time_zone: string
      area: components['schemas']['Box']
      photo_edge: number | null
      backdrops: components['schemas']['Backdrop'][]
      outings: components['schemas']['Outing'][]
      maps: components['schemas']['PackMap'][]
      marks: {
        [key: string]: string
      }
      places: number
      layers: components['schemas']['PackLayer'][]
    }
    PackPlace: [string, string, number, number]
    SyncOutcome: {
      op: components['schemas']['Uuid'] | string | null
      /** @enum {string} */
      outcome: 'applied' | 'merged' | 'clash' | 'held' | 'refused'
      record?: components['schemas']['Uuid']
      version?: number
      problems?: components['schemas']['Problem'][]
      clashes?: string[]
    }
    NewsRecord: {
      id: components['schemas']['Uuid']
      version: number
      lon: number
      lat: number
      /** @enum {string} */
      place?: 'cell' | 'area' | 'none'
      geometry?: components['schemas']['Geometry'] | null
      length?: number | null
      area?: number | null
      altitude: number | null
      fix: components['schemas']['Fix'] | null
      visited?: components['schemas']['Uuid']
      visited_name?: string | null
      visits?: number
      visited_at?: components['schemas']['Day'] | components['schemas']['Instant'] | null
      accuracy: number | null
      collected_at: components['schemas']['Instant']
      received_at: components['schemas']['Instant']
      author: string | null
      accepted: components['schemas']['Accepted'] | null
      values: components['schemas']['Values']
      name: string | null
      photos: components['schemas']['Photo'][]
      flags?: components['schemas']['Flag'][]
      mine: boolean
    }
    News: {
      cursor: number
      more: boolean
      design: number
      scope: string
      again?: boolean
      records: components['schemas']['NewsRecord'][]
      gone: components['schemas']['Uuid'][]
      outside?: components['schemas']['Uuid'][]
    }
    SyncAnswer: {
      server_time: components['schemas']['Instant']
      outcomes: components['schemas']['SyncOutcome'][]
      news: {
        [key: string]: components['schemas']['News']
      }
      lost: number[]
      answered: number[]
      asked: components['schemas']['AskedRow'][]
      read_notices: number[]
      notices: components['schemas']['Notice'][]
    }
    TrailTaken: {
      taken: number
      left_out: number
    }
    CardTextPart:
      | {
          text: string
        }
      | {
          field: string
          as?: string
        }
      | {
          formula: string
        }
      | {
          tally: boolean
        }
    CardOnly: {
      field: string
      /** @enum {string} */
      test: 'there' | 'missing' | 'is' | 'is_not' | 'at_least' | 'below'
      value?: unknown
    }
    CardTextLine: {
      parts: components['schemas']['CardTextPart'][]
      only: components['schemas']['CardOnly'] | null
    }
    CardChart: {
      /** @enum {string} */
      kind: 'bars' | 'donut'
      fields: string[]
    }
    CardVisits: {
      field: string | null
    }
    MapCard: {
      fields: string[]
      photos: boolean
      text?: components['schemas']['CardTextLine'][]
      chart?: components['schemas']['CardChart']
      visits?: components['schemas']['CardVisits']
      trees?: components['schemas']['FormulaTrees']
    }
    LabelPart:
      | {
          field: string
        }
      | {
          text: string
        }
      | {
          formula: string
        }
      | {
          tally: boolean
        }
    MapLabel: {
      parts: components['schemas']['LabelPart'][]
      size: number
      zoom: components['schemas']['ZoomRange']
      trees?: components['schemas']['FormulaTrees']
    }
    FormulaTrees: Record<string, unknown>
    ZoomRange: [number, number]
    LayerOnMap: {
      id: string
      layer: number
      title: string | null
      look: components['schemas']['Look']
      card: components['schemas']['MapCard']
      label: components['schemas']['MapLabel'] | null
      slice: number | null
      opacity: number
      zoom: components['schemas']['ZoomRange']
      visible: boolean
      in_legend: boolean
      called: string
    }
    MapTable: {
      part: string
      columns: string[]
      sort: string
      down: boolean
      all: boolean
      chart: boolean
    }
    TableColumn: {
      key: string
      label: string
      number: boolean
    }
    TableRow: {
      id: string
      name: string | null
      lon: number | null
      lat: number | null
      class: string | null
      value: number | null
      said: string | null
      cells: components['schemas']['OptionalText'][]
    }
    TableRows: {
      columns: components['schemas']['TableColumn'][]
      rows: components['schemas']['TableRow'][]
      picked: components['schemas']['TableRow'] | null
      found: number
      counts: components['schemas']['Counts']
    }
    Counts: Record<string, number>
    MapDoc: {
      id: number
      title: string
      about: string
      layers: components['schemas']['LayerOnMap'][]
      extent: components['schemas']['Box']
      viewpoints: components['schemas']['Viewpoint'][]
      searches: components['schemas']['SavedSearch'][]
      beside: components['schemas']['MapTable'] | null
      audience: components['schemas']['Audience']
      shown_to: string[]
      owner: number | null
      address: string | null
    }
    MapWeight: {
      /** @enum {string} */
      level: 'light' | 'medium' | 'heavy'
      shapes: number
      reasons: string[]
    }
    MapAdvice: {
      warnings: components['schemas']['StringLists']
      why: components['schemas']['Strings']
      weight: components['schemas']['MapWeight']
    }
    Strings: Record<string, string>
    StringLists: Record<string, string[]>
    AddableLayer: {
      id: number
      title: string
      programme: string
      own: boolean
      starred: boolean
      geometry: components['schemas']['GeometryKind']
      records: number
      part: components['schemas']['LayerOnMap']
    }
    AddableLayers: {
      layers: components['schemas']['AddableLayer'][]
      more: number
    }
    TwoFields: {
      pairs: number
      rho: number | null
      word: components['schemas']['OptionalText']
      dots: components['schemas']['Dot'][]
    }
    Dot: [number, number]
    SizeMark: {
      text: string
      pixels: number
    }
    SizeLegend: {
      by: string
      marks: components['schemas']['SizeMark'][]
      missing: number
    }
    MapViewLayer: {
      id: string
      title: string
      by: string | null
      geometry: components['schemas']['GeometryKind']
      slice: string | null
      visible: boolean
      in_legend: boolean
      zoom: components['schemas']['ZoomRange']
      style: components['schemas']['StyleLayers']
      legend: components['schemas']['LegendLine'][]
      sizes: components['schemas']['SizeLegend'] | null
      gather: components['schemas']['SourceOptions'] | null
      total: number
      drawn: number
      version: string
    }
    MapView: {
      title: string
      about: string
      programme: string
      extent: components['schemas']['Box']
      viewpoints: components['schemas']['Viewpoint'][]
      backdrops: components['schemas']['Backdrop'][]
      layers: components['schemas']['MapViewLayer'][]
      notes: string[]
      searches: components['schemas']['OpenSearch'][]
      beside: components['schemas']['MapTable'] | null
      photos: boolean
    }
    WallPhoto: {
      id: string
      part: string
      record: string
      layer: string
      at: components['schemas']['Instant']
      width: number | null
      height: number | null
      name: string | null
      lon: number | null
      lat: number | null
      /** @enum {string} */
      place: 'exact' | 'cell' | 'area' | 'none'
    }
    PhotoWall: {
      photos: components['schemas']['WallPhoto'][]
      n: number
      first: boolean
      last: boolean
    }
    OpenSearch: {
      id: string
      title: string
    }
    SavedSearch: {
      id: string
      title: string
      part: string
      slice: number
    }
    CardValue: {
      label: string
      kind: components['schemas']['FieldKind']
      text: string
    }
    CardPhoto: {
      id: components['schemas']['Uuid'] | string
      /** @enum {string} */
      state: 'on_way' | 'stored' | 'refused'
    }
    CardPiece: {
      text: string
      /** @enum {string} */
      is: 'words' | 'value' | 'date' | 'moment' | 'ago' | 'missing'
    }
    ChartBar: {
      label: string
      value: number
      text: string
    }
    ChartView: {
      /** @enum {string} */
      kind: 'bars' | 'donut'
      bars: components['schemas']['ChartBar'][]
    }
    CardVisit: {
      at: components['schemas']['Instant']
      value: number | null
      text: string | null
    }
    CardVisitsView: {
      count: number
      label: string | null
      list: components['schemas']['CardVisit'][]
    }
    CardSentence: components['schemas']['CardPiece'][]
    CardView: {
      id: string
      name: string | null
      text: components['schemas']['CardSentence'][]
      chart: components['schemas']['ChartView'] | null
      visits: components['schemas']['CardVisitsView'] | null
      collected_at: components['schemas']['Instant'] | null
      values: components['schemas']['CardValue'][]
      photos: components['schemas']['CardPhoto'][]
    }
    /** @enum {string} */
    Step: 'day' | 'week' | 'month' | 'year'
    /** @enum {string} */
    MeasureKind:
      | 'count'
      | 'sum'
      | 'mean'
      | 'median'
      | 'quantile'
      | 'deviation'
      | 'least'
      | 'most'
      | 'distinct'
      | 'share'
      | 'ratio'
      | 'walked'
      | 'hours'
    Measure: {
      of: components['schemas']['MeasureKind']
      field?: string
      p?: number
      slice?: number
      top?: components['schemas']['Measure']
      bottom?: components['schemas']['Measure']
      times?: number
    }
    Grouping: {
      field?: string
      step?: components['schemas']['Step']
      areas?: number
    }
    Comparison: {
      by: string
      days?: number
      since?: components['schemas']['Day']
      /** @enum {string} */
      against: 'before' | 'year'
    }
    PlanPoint: {
      day: components['schemas']['Day']
      value: number
    }
    Threshold: {
      at: number
      text: string
    }
    /** @enum {string} */
    TileKind:
      | 'number'
      | 'target'
      | 'breakdown'
      | 'trend'
      | 'spread'
      | 'pairs'
      | 'table'
      | 'latest'
      | 'details'
      | 'form'
      | 'map'
      | 'coverage'
      | 'crews'
      | 'outings'
      | 'photos'
      | 'text'
      | 'link'
      | 'picker'
    TileColumn: {
      measure: components['schemas']['Measure']
      title?: string
      unit?: string
      decimals?: number
    }
    TextValue: {
      layer: number
      slice?: number
      measure: components['schemas']['Measure']
      unit?: string
      decimals?: number
    }
    Tile: {
      id: string
      kind: components['schemas']['TileKind']
      title: string
      width: number
      height: number
      x?: number
      y?: number
      page?: number
      phone?: number
      on_phone?: boolean
      question?: string
      layer?: number
      slice?: number | null
      measure?: components['schemas']['Measure']
      unit?: string
      decimals?: number
      compare?: components['schemas']['Comparison']
      target?: number
      from?: components['schemas']['Day']
      to?: components['schemas']['Day']
      curve?: components['schemas']['PlanPoint'][]
      thresholds?: components['schemas']['Threshold'][]
      by?: components['schemas']['Grouping']
      second?: components['schemas']['Grouping']
      lines?: components['schemas']['Grouping']
      /** @enum {string} */
      shape?: 'bars' | 'donut'
      /** @enum {string} */
      order?: 'list' | 'most' | 'collected' | 'arrived' | 'name'
      top?: number
      running?: boolean
      bars?: number
      up?: components['schemas']['Measure']
      columns?: components['schemas']['TileColumn'][]
      sort?: number
      down?: boolean
      fields?: string[]
      count?: number
      names?: boolean
      photo?: boolean
      metres?: number
      days?: number
      map?: number
      open?: boolean
      text?: string
      values?: components['schemas']['TextValue'][]
      address?: string
    }
    ProposedTile: ProposedTile
    QuestionProposals: {
      id: string
      text: string
      /** @enum {string} */
      state: 'open' | 'no_tile' | 'answered'
      tile: components['schemas']['QuestionTile'] | null
      proposals: components['schemas']['ProposedTile'][]
    }
    AudienceRule: {
      /** @enum {string} */
      rows: 'all' | 'slice' | 'own' | 'none'
      slice: number | null
      accepted: boolean
      /** @enum {string} */
      place: 'exact' | 'cell' | 'area' | 'none'
      metres: number | null
      areas: number | null
      fields: string[] | null
      photos: boolean
      least: number | null
    }
    SeenField: {
      key: string
      label: string
      tells_place: boolean
      tells_areas: number[]
    }
    SliceName: {
      id: number
      name: string
    }
    AreaLayer: {
      id: number
      title: string
    }
    SeenLayer: {
      id: number
      title: string
      points: boolean
      areas: components['schemas']['AreaLayer'][]
      photos: boolean
      visits_of: number | null
      to_check: number
      fields: components['schemas']['SeenField'][]
      slices: components['schemas']['SliceName'][]
      rules: {
        [key: string]: components['schemas']['SeenRule']
      }
    }
    ClosedLayer: {
      id: number
      title: string
      link: boolean
      people: string[]
    }
    LackingLayer: {
      id: number
      title: string
      link: boolean
      people: number
    }
    ShownThing: {
      /** @enum {string} */
      kind: 'map' | 'board'
      id: number
      title: string
      audience: components['schemas']['Audience']
      shown_to: string[]
      address: string | null
      closed: components['schemas']['ClosedLayer'][]
    }
    SeenRule: {
      /** @enum {string} */
      rows: 'all' | 'slice' | 'own' | 'none'
      slice: number | null
      accepted: boolean
      /** @enum {string} */
      place: 'exact' | 'cell' | 'area' | 'none'
      metres: number | null
      areas: number | null
      fields: string[] | null
      photos: boolean
      least: number | null
      said: boolean
      lost: boolean
    }
    AudienceOf: {
      name: string
      /** @enum {string} */
      kind: 'link' | 'guests' | 'makers' | 'crews' | 'crew' | 'group'
      title: string | null
      people: string[] | null
    }
    WorkSeen: {
      trails: string[]
      crews: string[]
      outings: string[]
    }
    Audiences: {
      audiences: components['schemas']['AudienceOf'][]
      layers: components['schemas']['SeenLayer'][]
      things: components['schemas']['ShownThing'][]
      work: components['schemas']['WorkSeen']
    }
    PlaceTold: {
      was: components['schemas']['Geometry']
      told: components['schemas']['Geometry'] | null
      least: number | null
      most: number | null
      outside: number
      of: number
    }
    AlertRule: {
      /** @enum {string} */
      kind: 'slice' | 'measure' | 'silence'
      layer?: number
      slice?: number | null
      measure?: components['schemas']['Measure']
      /** @enum {string} */
      passes?: 'above' | 'below'
      value?: number
      crew?: number | null
      hours?: number
      on_outings?: boolean
    }
    AlertTo: {
      coordinators: boolean
      crews: number[]
    }
    AlertRest: {
      minutes: number
      from: string | null
      until: string | null
    }
    AlertDoc: {
      id: number
      name: string
      paused: boolean
      waits: boolean
      trouble: string | null
      told_at: components['schemas']['Instant'] | null
      rule: components['schemas']['AlertRule']
      to: components['schemas']['AlertTo']
      by_mail: boolean
      on_phones: boolean
      rest: components['schemas']['AlertRest']
    }
    AlertStanding: {
      stands: string
    }
    NamedRecord: {
      id: string
      name: string | null
    }
    Notice: {
      id: number
      programme: number
      programme_name: string
      layer: number | null
      text: string
      records: components['schemas']['NamedRecord'][]
      path: string
      at: components['schemas']['Instant']
      read: boolean
    }
    Notices: {
      unread: number
      notices: components['schemas']['Notice'][]
    }
    BoardDoc: {
      id: number
      title: string
      tiles: components['schemas']['Tile'][]
      pages: string[]
      visitors_pick: boolean
      audience: components['schemas']['Audience']
      shown_to: string[]
      owner: number | null
      address: string | null
    }
    Quantity: {
      key: string
      label: string
      unit: string | null
      units: string[]
      number: boolean
      measures: components['schemas']['MeasureKind'][]
    }
    GroupingChoice: {
      by: components['schemas']['Grouping']
      label: string
      time: boolean
      parts: boolean
      whole: boolean
    }
    Measurable: {
      quantities: components['schemas']['Quantity'][]
      groupings: components['schemas']['GroupingChoice'][]
    }
    OptionalNumber: number | null
    GroupLine: {
      code: string | null
      label: string | null
      head?: string
      colour?: string
    }
    EarlierNumber: {
      value: number | string | null
      n: number
      from: components['schemas']['Day']
      to: components['schemas']['Day']
      /** @enum {string} */
      against: 'before' | 'year'
      least: number | null
    }
    NumberAnswer: {
      value: number | string | null
      n: number
      missing: number
      least: number | null
      unit: string | null
      decimals: number | null
      span?: [components['schemas']['Day'], components['schemas']['Day']]
      earlier?: components['schemas']['EarlierNumber']
      line?: [string, number | null][]
    }
    TargetAnswer: {
      value: number | null
      n: number
      missing: number
      unit: string | null
      decimals: number | null
      target: number
      due: number | null
      from: components['schemas']['Day'] | null
      to: components['schemas']['Day'] | null
      /** @enum {string} */
      state: 'reached' | 'on' | 'behind' | 'open'
      passed: string | null
      thresholds: components['schemas']['Threshold'][]
    }
    BreakdownRow: {
      code: string | null
      label: string | null
      head?: string
      colour?: string
      value: number | null
      n: number
      share: number | null
      held: boolean
      parts?: number[]
    }
    BreakdownOthers: {
      groups: number
      value: number | null
      n: number
      share: number | null
    }
    BreakdownAnswer: {
      /** @enum {string} */
      shape: 'bars' | 'donut'
      step: components['schemas']['Step'] | null
      rows: components['schemas']['BreakdownRow'][]
      others: components['schemas']['BreakdownOthers'] | null
      lines: components['schemas']['GroupLine'][]
      total: number | string | null
      n: number
      missing: number
      least: number | null
      held: boolean
      unparted: boolean
      overlaps: boolean
      counts: boolean
      unit: string | null
      decimals: number | null
    }
    TrendLine: {
      code: string | null
      label: string | null
      head?: string
      colour?: string
      values: components['schemas']['OptionalNumber'][]
    }
    TrendAnswer: {
      step: components['schemas']['Step']
      coarser: boolean
      steps: components['schemas']['Day'][]
      lines: components['schemas']['TrendLine'][]
      parted: boolean
      running: boolean
      n: number
      missing: number
      outside: number
      least: number | null
      unparted: boolean
      unit: string | null
      decimals: number | null
    }
    SpreadBar: {
      from: number
      to: number
      count: number
      pick: string
    }
    SpreadAnswer: {
      bars: components['schemas']['SpreadBar'][]
      mean?: number
      median?: number
      deviation?: number | null
      least?: number
      most?: number
      n: number
      missing: number
      unit: string | null
      decimals: number | null
    }
    ToldMeasure: {
      of: components['schemas']['MeasureKind']
      field?: string
      p?: number
      top?: components['schemas']['ToldMeasure']
      bottom?: components['schemas']['ToldMeasure']
    }
    Scale: {
      measure: components['schemas']['ToldMeasure']
      unit: string | null
      decimals: number | null
    }
    PairPoint: {
      code: string | null
      label: string | null
      head?: string
      colour?: string
      x: number
      y: number
      n: number
    }
    PairsAnswer: {
      step: components['schemas']['Step'] | null
      points: components['schemas']['PairPoint'][]
      without: number
      n: number
      across: components['schemas']['Scale']
      up: components['schemas']['Scale']
    }
    MeasuredColumn: {
      title: string
      measure: components['schemas']['ToldMeasure']
      unit: string | null
      decimals: number | null
    }
    Cell: number | string | null
    TableLine: {
      code: string | null
      label: string | null
      head?: string
      colour?: string
      cells: components['schemas']['Cell'][]
      held: number[]
      n: number
    }
    TableAnswer: {
      step: components['schemas']['Step'] | null
      columns: components['schemas']['MeasuredColumn'][]
      rows: components['schemas']['TableLine'][]
      more: number
      totals: components['schemas']['Cell'][]
      held: number[]
      least: number | null
      overlaps: boolean
      n: number
    }
    LatestRecord: {
      id: string
      name: string | null
      details: components['schemas']['OptionalText'][]
      class: string | null
      at: components['schemas']['Instant']
      photo: string | null
    }
    DetailsAnswer: {
      of: string
      may_show: boolean
    }
    FormAnswer: {
      may_add: boolean
      visits_of: number | null
    }
    LatestAnswer: {
      records: components['schemas']['LatestRecord'][]
      labels: string[]
      photo: boolean
      /** @enum {string} */
      by: 'collected' | 'arrived' | 'name'
      legend: components['schemas']['LegendLine'][]
      n: number
    }
    MapAnswer: {
      view: components['schemas']['MapView']
      bare: boolean
    }
    CoverageRow: {
      id: string
      name: string | null
      share: number
    }
    CoverageAnswer: {
      share: number | null
      rows: components['schemas']['CoverageRow'][]
      more: number
      n: number
      metres: number
      from: components['schemas']['Day']
      to: components['schemas']['Day']
    }
    CrewPerson: {
      id: number | null
      name: string | null
      crew: string | null
      crew_id: number | null
      heard_at: components['schemas']['Instant'] | null
      waiting: number
      place: components['schemas']['LastPlace'] | null
    }
    CrewsAnswer: {
      people: components['schemas']['CrewPerson'][]
    }
    BoardOuting: {
      title: string
      crew_name: string | null
      from: components['schemas']['Day']
      to: components['schemas']['Day']
      progress: components['schemas']['OutingProgress']
    }
    OutingsAnswer: {
      outings: components['schemas']['BoardOuting'][]
    }
    StripPhoto: {
      id: string
      record: string
      name: string | null
      at: components['schemas']['Instant'] | null
    }
    PhotosAnswer: {
      photos: components['schemas']['StripPhoto'][]
      n: number
    }
    TextAnswerValue: {
      value: number | string | null
      n: number
      least: number | null
      unit: string | null
      decimals: number | null
    }
    TextAnswer: {
      text: string
      values: components['schemas']['TextAnswerValue'][]
    }
    LinkAnswer: {
      address: string
      text: string
    }
    PickerAnswer: {
      /** @enum {string} */
      shape: 'list' | 'span'
      lines: components['schemas']['GroupLine'][]
    }
    BrokenAnswer: {
      messages: string[]
      closed: boolean
    }
    ShownTile: {
      id: string
      title: string
      width: number
      height: number
      x?: number
      y?: number
      page?: number
      phone?: number
      on_phone?: boolean
      layer?: number
      slice?: number
      slice_name: string | null
      follows: boolean
    }
    AnsweredTile:
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'number'
          answer: components['schemas']['NumberAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'target'
          answer: components['schemas']['TargetAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'breakdown'
          answer: components['schemas']['BreakdownAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'trend'
          answer: components['schemas']['TrendAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'spread'
          answer: components['schemas']['SpreadAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'pairs'
          answer: components['schemas']['PairsAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'table'
          answer: components['schemas']['TableAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'latest'
          answer: components['schemas']['LatestAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'details'
          answer: components['schemas']['DetailsAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'form'
          answer: components['schemas']['FormAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'map'
          answer: components['schemas']['MapAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'coverage'
          answer: components['schemas']['CoverageAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'crews'
          answer: components['schemas']['CrewsAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'outings'
          answer: components['schemas']['OutingsAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'photos'
          answer: components['schemas']['PhotosAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'text'
          answer: components['schemas']['TextAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'link'
          answer: components['schemas']['LinkAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'picker'
          answer: components['schemas']['PickerAnswer']
        }
      | {
          id: string
          title: string
          width: number
          height: number
          x?: number
          y?: number
          page?: number
          phone?: number
          on_phone?: boolean
          layer?: number
          slice?: number
          slice_name: string | null
          follows: boolean
          /** @constant */
          kind: 'broken'
          answer: components['schemas']['BrokenAnswer']
        }
    StoodDay: {
      day: components['schemas']['Day']
      by_collecting: boolean
    }
    BoardAnswers: {
      title: string
      programme: string
      area: components['schemas']['Box']
      time_zone: string
      today: components['schemas']['Day']
      as_of: components['schemas']['Instant']
      pages: string[]
      may_pick: boolean
      picked: string[]
      stood: components['schemas']['StoodDay'] | null
      tiles: components['schemas']['AnsweredTile'][]
    }
    Hung: {
      /** @enum {string} */
      kind: 'map' | 'board'
      id: number
    }
    GateThing: {
      /** @enum {string} */
      kind: 'map' | 'board'
      title: string
      open: boolean
      address: string | null
      pegs: components['schemas']['Peg'][]
    }
    GateFront: {
      title: string
      about: string
      colour: string
      text: string
      things: components['schemas']['GateThing'][]
    }
    GateDoc: {
      title: string
      about: string
      colour: string
      hung: components['schemas']['Hung'][]
      open: boolean
      address: string | null
      front: components['schemas']['GateFront']
    }
  }
  responses: never
  parameters: never
  requestBodies: never
  headers: never
  pathItems: never
}
export type $defs = Record<string, never>
export type operations = Record<string, never>
