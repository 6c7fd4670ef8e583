/** Made by openapi-typescript from docs/openapi.json: npm run formats. */

export interface paths {
    "/machines": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A machine with its model, its owner and where it stands. */
        get: operations["listMachines"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/machines/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A machine with its model, its owner and where it stands. */
        get: operations["getMachine"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/visits": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A visit to a machine: open, signed or withdrawn. */
        get: operations["listVisits"];
        put?: never;
        /** Begins a visit. */
        post: operations["appendVisit"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/visits/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A visit to a machine: open, signed or withdrawn. */
        get: operations["getVisit"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/readings": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** One reading of one knob, as it was typed and as it counts. */
        get: operations["listReadings"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/results": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** One figure of a signed visit: a knob, as found or as left, with its uncertainty and its verdict. */
        get: operations["listResults"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/moves": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A knob was moved: how far, and what was advised. */
        get: operations["listMoves"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/shots": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A calibration shot. */
        get: operations["listShots"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/programmes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What a button was left giving, and what coffee, grind and dose that holds for. */
        get: operations["listProgrammes"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/work-lines": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A line of work: what was done to which part and why, or what was advised and not done. */
        get: operations["listWorkLines"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/parts": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A part the workshop keeps. */
        get: operations["listParts"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/parts/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A part the workshop keeps. */
        get: operations["getPart"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/instruments": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** An instrument of the kit, or a gauge built into a machine, by its papers. */
        get: operations["listInstruments"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/instruments/{id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** An instrument of the kit, or a gauge built into a machine, by its papers. */
        get: operations["getInstrument"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/past-visits": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A visit from before this product, as a spreadsheet had it. */
        get: operations["listPastVisits"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/past-figures": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A figure of such a visit: without uncertainty and verdict, since nobody knows any more how it was measured. */
        get: operations["listPastFigures"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/visits/{visit_id}/notes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Writes down how the machine was found. */
        post: operations["appendNotes"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/visits/{visit_id}/ticks": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Ticks a task of a step. */
        post: operations["appendTicks"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/visits/{visit_id}/entries": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Answers a task of a step: a value, or words. */
        post: operations["appendEntries"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/visits/{visit_id}/readings": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Writes a reading down. */
        post: operations["appendReadings"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/visits/{visit_id}/moves": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Writes down that a knob was moved. */
        post: operations["appendMoves"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/visits/{visit_id}/shots": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Writes a calibration shot down. */
        post: operations["appendShots"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/visits/{visit_id}/work-lines": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Writes a line of work down. */
        post: operations["appendWorkLines"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
}
export type webhooks = Record<string, never>;
export interface components {
    schemas: {
        Machine: {
            /**
             * Format: uuid
             * @description The number of this row, everywhere and for ever
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            id: string;
            /**
             * @description Serial on the rating plate
             * @example HE2-3301
             */
            serial: string;
            /**
             * @description Maker of the model
             * @example Hollin
             */
            maker: string;
            /**
             * @description Name of the model
             * @example Skerry
             */
            model: string;
            /**
             * @description Kind of machine, K1 to K12
             * @example K7
             */
            kind: string;
            /**
             * Format: uuid
             * @description The owner’s number
             * @example 7d3e9b60-2f5e-4c40-9f57-9b1d2a6e4c01
             */
            owner_id: string;
            /**
             * @description Owner
             * @example Harbour Kiosk
             */
            owner: string;
            /**
             * @description Where it stands
             * @example Quayside
             */
            site: string;
            /**
             * @description Town
             * @example Saltby
             */
            town: string;
            /**
             * @description Metres above the sea
             * @example 12
             */
            altitude_m: number;
            /**
             * @description What is known of the water there
             * @example softened
             */
            water: string;
            /**
             * @description Day it was installed
             * @example 2022-05-17
             */
            installed_on: string | null;
            /**
             * @description Day it went out of service; empty: it works
             * @example 2026-01-31
             */
            retired_on: string | null;
            /**
             * @description Where its own gauge sits
             * @example pump
             */
            gauge_place: string;
            /**
             * @description Added to its gauge for the pressure at the group, bar
             * @example -0.4
             */
            gauge_to_group_bar: number;
            /**
             * @description Standard uncertainty of that, bar
             * @example 0.1
             */
            gauge_to_group_u_bar: number;
            /**
             * @description Dead-end pressure on the pump’s label, bar
             * @example 15
             */
            pump_label_bar: number | null;
            /**
             * @description A valve before the group throttles the flow
             * @example false
             */
            flow_control: boolean;
            /**
             * @description What was changed on it, in words
             * @example needle valve fitted
             */
            modifications: string;
            /**
             * @description Coffee it is run with
             * @example Breakwater blend
             */
            coffee: string;
            /**
             * @description Grinder beside it
             * @example built in
             */
            grinder: string;
            /**
             * @description Doubles a day, about
             * @example 80
             */
            shots_per_day: number | null;
        };
        MachinePage: {
            rows: components["schemas"]["Machine"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        Visit: {
            /**
             * Format: uuid
             * @description The number of this row, everywhere and for ever
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            id: string;
            /**
             * Format: uuid
             * @description The machine
             * @example 8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20
             */
            machine_id: string;
            /**
             * @description open, signed or withdrawn
             * @example signed
             */
            state: string;
            /**
             * @description What the visit was for, one word each
             * @example service handover
             */
            scopes: string;
            /**
             * @description What the owner said was wrong
             * @example sour since March
             */
            complaint: string;
            /**
             * Format: date-time
             * @description When it began
             * @example 2026-03-04T08:55:00.000Z
             */
            started_at: string;
            /**
             * @description Who began it
             * @example Tobin Marsh
             */
            started_by: string | null;
            /**
             * @description When it was signed; empty: it was not
             * @example 2026-03-04T11:20:30.000Z
             */
            signed_at: string | null;
            /**
             * @description The name under it
             * @example T. Marsh
             */
            signed_as: string | null;
            /**
             * @description Faults left, as lists say them
             * @example OPV sticks
             */
            finding: string | null;
            /**
             * @description Steps left out, each with its reason in the report
             * @example 0
             */
            skipped_steps: number | null;
            /**
             * @description guarded: inside by its uncertainty; simple: inside
             * @example guarded
             */
            decision_rule: string;
            /**
             * @description SHA-256 of the document that was signed
             * @example 9f86d081884c7d659a2feaa0c55ad015a3bf4f1b2b0b822cd15d6c15b0f00a08
             */
            document_sha256: string | null;
        };
        VisitPage: {
            rows: components["schemas"]["Visit"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        Reading: {
            /**
             * Format: uuid
             * @description The number of this row, everywhere and for ever
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            id: string;
            /**
             * Format: uuid
             * @description The visit it belongs to
             * @example 3f6c0a52-7d0e-4f0e-9a53-0c4a8a4f7e11
             */
            visit_id: string;
            /**
             * Format: uuid
             * @description The machine
             * @example 8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20
             */
            machine_id: string;
            /**
             * @description What is set: opv, offset, pressurestat, basket, button and so on
             * @example opv
             */
            knob: string;
            /**
             * @description Group, counted from 1; of a button only
             * @example 1
             */
            group_no: number | null;
            /**
             * @description Button of that group
             * @example double
             */
            button: string | null;
            /**
             * @description Which entry of its knob’s log, moves counted too
             * @example 3
             */
            no: number;
            /**
             * Format: date-time
             * @description When it was taken
             * @example 2026-03-04T09:41:07.120Z
             */
            at: string;
            /**
             * @description Who wrote it down
             * @example Tobin Marsh
             */
            by: string | null;
            /**
             * @description As it was typed
             * @example 9,2
             */
            typed: string;
            /**
             * @description The unit it was typed in
             * @example bar
             */
            typed_unit: string;
            /**
             * @description What the instrument showed, in stored_unit
             * @example 9.2
             */
            indicated: number;
            /**
             * @description What is judged, corrections applied, in stored_unit
             * @example 8.85
             */
            value: number;
            /**
             * @description Standard uncertainty of this reading, in stored_unit
             * @example 0.09
             */
            u: number;
            /**
             * @description Of that, what all readings of this instrument share
             * @example 0.06
             */
            u_common: number;
            /**
             * @description Unit of indicated, value and uncertainties
             * @example bar
             */
            stored_unit: string;
            /**
             * Format: uuid
             * @description What it was read with
             * @example c1d2e3f4-0a1b-4c2d-8e3f-5a6b7c8d9e0f
             */
            instrument_id: string;
            /**
             * @description Its name
             * @example Portafilter gauge 2
             */
            instrument: string | null;
            /**
             * @description Where the instrument sat
             * @example group
             */
            place: string;
            /**
             * @description Its calibration was past its date
             * @example false
             */
            instrument_out_of_date: boolean;
            /**
             * @description Taken before the chosen level of warm-up
             * @example false
             */
            not_warm: boolean;
            /**
             * @description Why it was corrected
             * @example misread
             */
            reason: string;
            /**
             * @description The row this one replaces
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            corrects: string | null;
            /**
             * @description The row that replaced this one; empty: it stands
             * @example 5e1c7f6b-93cb-4f49-bc11-3a8b2b1f0d90
             */
            corrected_by: string | null;
        };
        ReadingPage: {
            rows: components["schemas"]["Reading"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        Result: {
            /**
             * Format: uuid
             * @description The visit it belongs to
             * @example 3f6c0a52-7d0e-4f0e-9a53-0c4a8a4f7e11
             */
            visit_id: string;
            /**
             * @description Which figure of its visit, in the order of the report
             * @example 2
             */
            no: number;
            /**
             * Format: uuid
             * @description The machine
             * @example 8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20
             */
            machine_id: string;
            /**
             * @description Its serial
             * @example HE2-3301
             */
            serial: string;
            /**
             * @description What is set: opv, offset, pressurestat, basket, button and so on
             * @example opv
             */
            knob: string;
            /**
             * @description Group, counted from 1; of a button only
             * @example 1
             */
            group_no: number | null;
            /**
             * @description Button of that group
             * @example double
             */
            button: string | null;
            /**
             * @description as-found or as-left
             * @example as-left
             */
            phase: string;
            /**
             * @description The figure, in unit
             * @example 8.98
             */
            value: number;
            /**
             * @description Its unit
             * @example bar
             */
            unit: string;
            /**
             * @description Standard uncertainty
             * @example 0.07
             */
            u: number;
            /**
             * @description Effective degrees of freedom; empty: taken as known
             * @example 14.2
             */
            dof: number | null;
            /**
             * @description Coverage factor for 95 %
             * @example 2.14
             */
            k: number;
            /**
             * @description Expanded uncertainty, k × u
             * @example 0.15
             */
            expanded: number;
            /**
             * @description Readings it is made of
             * @example 3
             */
            n: number;
            /**
             * @description Step of the instrument: to how many places it is written
             * @example 0.1
             */
            resolution: number;
            /**
             * @description Lower limit; empty: open
             * @example 8.5
             */
            lower: number | null;
            /**
             * @description Upper limit; empty: open
             * @example 9.5
             */
            upper: number | null;
            /**
             * @description Against those limits, by that rule
             * @example holds
             */
            verdict: string;
            /**
             * @description Probability that it is inside
             * @example 0.998
             */
            p_inside: number;
            /**
             * @description guarded or simple
             * @example guarded
             */
            rule: string;
            /**
             * @description How it was come by
             * @example blind-portafilter
             */
            method: string | null;
            /**
             * @description Of its readings, those taken before it was warm
             * @example 0
             */
            not_warm: number;
            /**
             * @description An instrument behind it was past its date
             * @example false
             */
            instrument_out_of_date: boolean;
            /**
             * Format: date-time
             * @description When it was last read
             * @example 2026-03-04T10:05:12.000Z
             */
            read_at: string;
            /**
             * Format: date-time
             * @description When the visit was signed
             * @example 2026-03-04T11:20:30.000Z
             */
            signed_at: string;
        };
        ResultPage: {
            rows: components["schemas"]["Result"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        Move: {
            /**
             * Format: uuid
             * @description The number of this row, everywhere and for ever
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            id: string;
            /**
             * Format: uuid
             * @description The visit it belongs to
             * @example 3f6c0a52-7d0e-4f0e-9a53-0c4a8a4f7e11
             */
            visit_id: string;
            /**
             * Format: uuid
             * @description The machine
             * @example 8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20
             */
            machine_id: string;
            /**
             * @description What is set: opv, offset, pressurestat, basket, button and so on
             * @example opv
             */
            knob: string;
            /**
             * @description Group, counted from 1; of a button only
             * @example 1
             */
            group_no: number | null;
            /**
             * @description Button of that group
             * @example double
             */
            button: string | null;
            /**
             * @description Which entry of its knob’s log, readings counted too
             * @example 4
             */
            no: number;
            /**
             * Format: date-time
             * @description When it was made
             * @example 2026-03-04T09:41:07.120Z
             */
            at: string;
            /**
             * @description Who wrote it down
             * @example Tobin Marsh
             */
            by: string | null;
            /**
             * @description As it was typed
             * @example 1/4
             */
            typed: string;
            /**
             * @description Turns clockwise, or steps up; minus: the other way
             * @example 0.25
             */
            amount: number;
            /**
             * @description turns or steps
             * @example turns
             */
            amount_unit: string;
            /**
             * @description What was advised, in the same sense; empty: nothing was
             * @example 0.25
             */
            advised: number | null;
            /**
             * @description Why it was corrected
             * @example it was the other way
             */
            reason: string;
            /**
             * @description The row this one replaces
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            corrects: string | null;
            /**
             * @description The row that replaced this one; empty: it stands
             * @example 5e1c7f6b-93cb-4f49-bc11-3a8b2b1f0d90
             */
            corrected_by: string | null;
        };
        MovePage: {
            rows: components["schemas"]["Move"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        Shot: {
            /**
             * Format: uuid
             * @description The number of this row, everywhere and for ever
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            id: string;
            /**
             * Format: uuid
             * @description The visit it belongs to
             * @example 3f6c0a52-7d0e-4f0e-9a53-0c4a8a4f7e11
             */
            visit_id: string;
            /**
             * Format: uuid
             * @description The machine
             * @example 8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20
             */
            machine_id: string;
            /**
             * @description Which try of the visit; a correction keeps the number
             * @example 2
             */
            no: number;
            /**
             * Format: date-time
             * @description When it was written down
             * @example 2026-03-04T09:41:07.120Z
             */
            at: string;
            /**
             * @description Who wrote it down
             * @example Tobin Marsh
             */
            by: string | null;
            /**
             * @description Group, counted from 1
             * @example 1
             */
            group_no: number;
            /**
             * @description manual, or the button that measured it
             * @example manual
             */
            ended_by: string;
            /**
             * @description Coffee
             * @example Breakwater blend
             */
            coffee: string;
            /**
             * @description Day it was roasted
             * @example 2026-02-20
             */
            roasted_on: string | null;
            /**
             * @description Grinder
             * @example built in
             */
            grinder: string;
            /**
             * @description Mark on the grinder’s own scale
             * @example 11
             */
            grind_setting: number;
            /**
             * @description Basket
             * @example double
             */
            basket: string;
            /**
             * @description Coffee in the basket, g
             * @example 18.1
             */
            dose_g: number;
            /**
             * @description In the cup at the end, g; empty: it choked before anything was worth weighing
             * @example 36.4
             */
            yield_g: number | null;
            /**
             * @description How long it ran, s
             * @example 27.5
             */
            time_s: number;
            /**
             * @description What the seconds count from
             * @example pump
             */
            time_from: string;
            /**
             * @description To the first drop, s
             * @example 6.2
             */
            first_drop_s: number | null;
            /**
             * @description Highest pressure at the group, bar
             * @example 9.1
             */
            peak_bar: number | null;
            /**
             * @description Steady pressure at the group, bar
             * @example 8.9
             */
            plateau_bar: number | null;
            /**
             * @description Set point on the display, °C
             * @example 93
             */
            set_point_c: number | null;
            /**
             * @description In the cup, crema and all, ml
             * @example 48
             */
            volume_ml: number | null;
            /**
             * @description Water that went in, by the meter, ml
             * @example 62
             */
            water_in_ml: number | null;
            /**
             * @description Dissolved solids, %
             * @example 9.1
             */
            tds_percent: number | null;
            /**
             * @description It choked
             * @example false
             */
            choked: boolean;
            /**
             * @description How it ran
             * @example even
             */
            flow: string | null;
            /**
             * @description How it tasted
             * @example balanced
             */
            taste: string | null;
            /**
             * @description In words
             * @example first after cleaning
             */
            note: string | null;
            /**
             * @description Scale it was weighed on
             * @example Bench scale
             */
            scale: string;
            /**
             * @description Standard uncertainty of the dose, g
             * @example 0.06
             */
            u_dose_g: number;
            /**
             * @description Standard uncertainty of the yield, g
             * @example 0.06
             */
            u_yield_g: number;
            /**
             * @description Pulled before the chosen level of warm-up
             * @example false
             */
            not_warm: boolean;
            /**
             * @description Added after the visit was signed
             * @example false
             */
            after_signing: boolean;
            /**
             * @description Why it was corrected, or came later
             * @example scale was on ounces
             */
            reason: string;
            /**
             * @description The row this one replaces
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            corrects: string | null;
            /**
             * @description The row that replaced this one; empty: it stands
             * @example 5e1c7f6b-93cb-4f49-bc11-3a8b2b1f0d90
             */
            corrected_by: string | null;
        };
        ShotPage: {
            rows: components["schemas"]["Shot"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        Programme: {
            /**
             * Format: uuid
             * @description The visit it belongs to
             * @example 3f6c0a52-7d0e-4f0e-9a53-0c4a8a4f7e11
             */
            visit_id: string;
            /**
             * Format: uuid
             * @description The machine
             * @example 8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20
             */
            machine_id: string;
            /**
             * @description Group, counted from 1
             * @example 1
             */
            group_no: number;
            /**
             * @description Button of that group
             * @example double
             */
            button: string;
            /**
             * Format: date-time
             * @description When the visit was signed
             * @example 2026-03-04T11:20:30.000Z
             */
            at: string;
            /**
             * @description Wanted in the cup, g
             * @example 36
             */
            target_g: number;
            /**
             * @description Mean of the shots that verified it, g
             * @example 36.3
             */
            mean_g: number;
            /**
             * @description Their standard deviation, g; empty: one shot
             * @example 0.4
             */
            sd_g: number | null;
            /**
             * @description How many they were
             * @example 3
             */
            shots: number;
            /**
             * @description Against its limits
             * @example holds
             */
            verdict: string;
            /**
             * @description Coffee it holds for
             * @example Breakwater blend
             */
            coffee: string;
            /**
             * @description Grinder it holds for
             * @example built in
             */
            grinder: string;
            /**
             * @description Mark on the grinder’s own scale
             * @example 11
             */
            grind_setting: number | null;
            /**
             * @description Coffee in the basket, g
             * @example 18
             */
            dose_g: number | null;
            /**
             * @description Set back to factory values before it was taught
             * @example false
             */
            after_reset: boolean;
        };
        ProgrammePage: {
            rows: components["schemas"]["Programme"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        Work: {
            /**
             * Format: uuid
             * @description The number of this row, everywhere and for ever
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            id: string;
            /**
             * Format: uuid
             * @description The visit it belongs to
             * @example 3f6c0a52-7d0e-4f0e-9a53-0c4a8a4f7e11
             */
            visit_id: string;
            /**
             * Format: uuid
             * @description The machine
             * @example 8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20
             */
            machine_id: string;
            /**
             * Format: date-time
             * @description When it was written down
             * @example 2026-03-04T09:41:07.120Z
             */
            at: string;
            /**
             * @description Who wrote it down
             * @example Tobin Marsh
             */
            by: string | null;
            /**
             * @description Part or task
             * @example Boiler
             */
            what: string;
            /**
             * @description renewed, fitted, cleaned, descaled, adjusted, freed, tested or other
             * @example descaled
             */
            how: string;
            /**
             * @description Why
             * @example 4 mm of lime
             */
            reason: string;
            /**
             * @description What was seen
             * @example boiler out and taken apart
             */
            seen: string;
            /**
             * @description done, declined, refused, postponed or open
             * @example done
             */
            outcome: string;
            /**
             * @description Put off until
             * @example 2026-09-01
             */
            until: string | null;
            /**
             * @description Its failure can hurt somebody
             * @example false
             */
            safety_critical: boolean;
            /**
             * @description Minutes
             * @example 150
             */
            minutes: number | null;
            /**
             * @description In the workshop’s currency
             * @example 48.5
             */
            price: number | null;
            /**
             * @description Part of the workshop’s list
             * @example d0c9b8a7-1e2f-4a3b-8c4d-5e6f7a8b9c0d
             */
            part_id: string | null;
            /**
             * @description Its name
             * @example Group gasket 8 mm
             */
            part: string | null;
            /**
             * @description Its number
             * @example GG-8
             */
            part_number: string | null;
            /**
             * @description How many were used
             * @example 2
             */
            part_count: number | null;
            /**
             * @description Who did work that a licence is asked for
             * @example Orrin Feld
             */
            licensed_person: string | null;
            /**
             * @description That licence
             * @example PV 2217
             */
            licence: string | null;
            /**
             * @description The row this one replaces
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            corrects: string | null;
            /**
             * @description The row that replaced this one; empty: it stands
             * @example 5e1c7f6b-93cb-4f49-bc11-3a8b2b1f0d90
             */
            corrected_by: string | null;
        };
        WorkPage: {
            rows: components["schemas"]["Work"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        Part: {
            /**
             * Format: uuid
             * @description The number of this row, everywhere and for ever
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            id: string;
            /**
             * @description Name
             * @example Group gasket 8 mm
             */
            name: string;
            /**
             * @description The maker’s number
             * @example GG-8
             */
            number: string;
            /**
             * @description On the shelf
             * @example 6
             */
            stock: number;
            /**
             * @description To be ordered once no more than so many are left
             * @example 2
             */
            reorder_at: number | null;
            /**
             * @description In the workshop’s currency
             * @example 4.2
             */
            price: number | null;
            /**
             * @description On the list; false: put away
             * @example true
             */
            kept: boolean;
        };
        PartPage: {
            rows: components["schemas"]["Part"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        Instrument: {
            /**
             * Format: uuid
             * @description The number of this row, everywhere and for ever
             * @example 0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21
             */
            id: string;
            /**
             * Format: uuid
             * @description The thing itself: new papers make a new row of the same thing
             * @example c1d2e3f4-0a1b-4c2d-8e3f-5a6b7c8d9e0f
             */
            item_id: string;
            /**
             * @description Name
             * @example Portafilter gauge 2
             */
            name: string;
            /**
             * @description What it measures; its figures are in the stored unit of that
             * @example pressure
             */
            quantity: string;
            /**
             * @description Where a gauge sits
             * @example group
             */
            place: string;
            /**
             * @description The machine it is built into
             * @example 8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20
             */
            machine_id: string | null;
            /**
             * @description Lower end of its scale
             * @example 0
             */
            lowest: number;
            /**
             * @description Upper end of its scale
             * @example 16
             */
            highest: number;
            /**
             * @description Its step
             * @example 0.1
             */
            resolution: number;
            /**
             * @description Standard deviation of one reading
             * @example 0.05
             */
            repeatability: number;
            /**
             * @description What its papers say of its error, JSON
             * @example {"form": "limit", "limit": 0.1}
             */
            error: string;
            /**
             * @description ± a year, where the papers state it
             * @example 0.05
             */
            drift_per_year: number | null;
            /**
             * @description Between rising and falling, where the papers state it
             * @example 0.08
             */
            hysteresis: number | null;
            /**
             * @description Last calibrated
             * @example 2025-09-12
             */
            calibrated_on: string | null;
            /**
             * @description To be calibrated by
             * @example 2026-09-12
             */
            due_on: string | null;
            /**
             * @description The workshop’s own words
             * @example in the red case
             */
            note: string;
            /**
             * @description It is used today
             * @example true
             */
            in_kit: boolean;
        };
        InstrumentPage: {
            rows: components["schemas"]["Instrument"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        PastVisit: {
            /**
             * Format: uuid
             * @description The file it came with
             * @example 6a1b2c3d-4e5f-4a6b-8c7d-8e9f0a1b2c3d
             */
            file_id: string;
            /**
             * @description Its line there, counted from 1
             * @example 17
             */
            line: number;
            /**
             * Format: uuid
             * @description The machine
             * @example 8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20
             */
            machine_id: string;
            /**
             * @description Its serial
             * @example HE2-3301
             */
            serial: string;
            /**
             * Format: date
             * @description Day of the visit
             * @example 2021-06-03
             */
            done_on: string;
            /**
             * @description Who was there
             * @example Orrin
             */
            done_by: string;
            /**
             * @description What was done
             * @example gasket, descaled
             */
            work: string;
            /**
             * @description What else was written
             * @example pump loud
             */
            note: string;
            /**
             * @description Name of that file
             * @example visits.csv
             */
            file: string;
        };
        PastVisitPage: {
            rows: components["schemas"]["PastVisit"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        PastFigure: {
            /**
             * Format: uuid
             * @description The file it came with
             * @example 6a1b2c3d-4e5f-4a6b-8c7d-8e9f0a1b2c3d
             */
            file_id: string;
            /**
             * @description Its line there, counted from 1
             * @example 17
             */
            line: number;
            /**
             * @description Which figure of that line
             * @example 1
             */
            no: number;
            /**
             * Format: uuid
             * @description The machine
             * @example 8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20
             */
            machine_id: string;
            /**
             * Format: date
             * @description Day of the visit
             * @example 2021-06-03
             */
            done_on: string;
            /**
             * @description What is set: opv, offset, pressurestat, basket, button and so on
             * @example opv
             */
            knob: string;
            /**
             * @description Group, counted from 1; of a button only
             * @example 1
             */
            group_no: number | null;
            /**
             * @description Button of that group
             * @example double
             */
            button: string | null;
            /**
             * @description as-found or as-left
             * @example as-left
             */
            phase: string;
            /**
             * @description As it stood in the file
             * @example 9,1
             */
            typed: string;
            /**
             * @description The unit it was understood in
             * @example bar
             */
            typed_unit: string;
            /**
             * @description The figure, in stored_unit
             * @example 9.1
             */
            value: number;
            /**
             * @description Its unit
             * @example bar
             */
            stored_unit: string;
        };
        PastFigurePage: {
            rows: components["schemas"]["PastFigure"][];
            /** @description What to send as “after” for the next page; null: this was the last. */
            after: string | null;
        };
        BeginVisit: {
            /**
             * Format: uuid
             * @description A UUID of yours. Sent again with the same content it changes nothing; the row goes by it.
             */
            command_id: string;
            /**
             * @description What the visit is for; own: what scopes say.
             * @enum {string}
             */
            type: "install" | "service" | "handover" | "check" | "own";
            /**
             * @description With type own: what the visit is for, one thing at least.
             * @default []
             */
            scopes?: ("setup" | "water" | "pressure" | "steam" | "temperature" | "volumes" | "grinder" | "shots" | "work" | "clean" | "hand-over")[];
            /**
             * @description What the owner says is wrong.
             * @default
             */
            complaint?: string;
            /**
             * @description What the OPV is set as: to regulate, or as a ceiling.
             * @enum {string}
             */
            school: "regulate" | "ceiling";
            /**
             * @description Which band of hardness the water is held against; none: the workshop’s.
             * @enum {string}
             */
            hardness?: "under-50" | "published-band";
            /**
             * @description How it is warmed up; none: the workshop’s.
             * @enum {string}
             */
            warm_up?: "wait" | "blank-shots";
            /**
             * @description How warm it has to be before readings count.
             * @default machine-warm
             * @enum {string}
             */
            level?: "boiler-ready" | "machine-warm" | "heat-soaked";
            /**
             * Format: uuid
             * @description The specification it is judged by; none: the workshop’s own.
             */
            spec_card_id?: string;
            /**
             * Format: uuid
             * @description The machine, by its id.
             */
            machine_id: string;
        };
        AppendNotes: {
            /**
             * Format: uuid
             * @description A UUID of yours. Sent again with the same content it changes nothing; the row goes by it.
             */
            command_id: string;
            /**
             * @description The step it is of.
             * @enum {string}
             */
            station: "look-over";
            /**
             * @description Which side or part of the machine.
             * @default
             */
            area?: string;
            /**
             * @description The condition, in words: even “no damage seen”.
             * @default
             */
            text?: string;
            /** @description The row that this one corrects. */
            supersedes?: string | null;
            /**
             * @description Why it is corrected, or comes later.
             * @default
             */
            reason?: string;
            /**
             * @description What came with it, counted.
             * @default
             */
            accessories?: string;
        };
        AppendTicks: {
            /**
             * Format: uuid
             * @description A UUID of yours. Sent again with the same content it changes nothing; the row goes by it.
             */
            command_id: string;
            /** @description The task, as the sheet names it. */
            key: string;
        };
        AppendEntries: {
            /**
             * Format: uuid
             * @description A UUID of yours. Sent again with the same content it changes nothing; the row goes by it.
             */
            command_id: string;
            /** @description The task, as the sheet names it. */
            task: string;
            /**
             * @description The value with its unit, or words.
             * @default
             */
            typed?: string;
            /**
             * @description The unit that figures are typed in.
             * @default
             */
            unit?: string;
            /** @description An unusual figure really was so. */
            sure?: boolean;
            /**
             * @description Of a water filter: what it lasts for.
             * @default
             */
            capacity?: string;
            /**
             * @description Of a water filter: what is drawn in a day.
             * @default
             */
            per_day?: string;
            /**
             * @description Of a water filter: months at most.
             * @default
             */
            months?: string;
            /** @description What it was read with, by its id in instruments. */
            instrument_id?: string | "";
            /** @description The row that this one corrects. */
            supersedes?: string | null;
        };
        AppendReadings: {
            /**
             * Format: uuid
             * @description A UUID of yours. Sent again with the same content it changes nothing; the row goes by it.
             */
            command_id: string;
            /**
             * @description The knob: opv, offset and so on; of a button, with its group.
             * @enum {string}
             */
            loop: "opv" | "line-regulator" | "pre-infusion" | "pressurestat" | "offset" | "temperature" | "basket" | "dose-1" | "single-1" | "double-long-1" | "single-long-1" | "fifth-1" | "sixth-1" | "dose-2" | "single-2" | "double-long-2" | "single-long-2" | "fifth-2" | "sixth-2" | "dose-3" | "single-3" | "double-long-3" | "single-long-3" | "fifth-3" | "sixth-3" | "dose-4" | "single-4" | "double-long-4" | "single-long-4" | "fifth-4" | "sixth-4";
            /**
             * Format: uuid
             * @description What it was read with, by its id in instruments.
             */
            instrument_id: string;
            /**
             * @description Where the gauge sits.
             * @default group
             * @enum {string}
             */
            place?: "group" | "pump" | "boiler" | "line" | "flow";
            /** @description The unit that figures are typed in. */
            unit: string;
            /**
             * @description The figure as it is typed, or a range: “9.2”, “8,9-9,1”.
             * @default
             */
            reading?: string;
            /** @description The gauge has no figures: reading is a clock place, “2 o’clock”. */
            clock?: boolean;
            /**
             * @description A curve instead of a figure: lines of seconds and °C.
             * @default
             */
            curve?: string;
            /**
             * @description Set point on the display then.
             * @default
             */
            set_point?: string;
            /**
             * @description Of a pressurestat: where it cut in; reading is where it cut out.
             * @default
             */
            cut_in?: string;
            /**
             * @description static: against a closed end; flowing: with a bleed.
             * @default static
             * @enum {string}
             */
            flow?: "static" | "flowing";
            /**
             * @description Flow of the bleed, ml/s.
             * @default
             */
            bleed?: string;
            /**
             * @description Whether water came back from the over-pressure valve.
             * @default not-looked
             * @enum {string}
             */
            returned?: "not-looked" | "seen" | "none";
            /**
             * @description How much came back.
             * @default
             */
            returned_ml?: string;
            /**
             * @description Where the amount of coffee stands, read as amount_kind says.
             * @default
             */
            amount?: string;
            /**
             * @description What that amount is counted in.
             * @enum {string}
             */
            amount_kind?: "seconds" | "clock" | "threads" | "degrees" | "spring" | "notch" | "pulses";
            /**
             * @description Mark on the grinder’s own scale.
             * @default
             */
            setting?: string;
            /**
             * @description How long it ground.
             * @default
             */
            seconds?: string;
            /**
             * @description Which basket it was dosed into.
             * @enum {string}
             */
            basket?: "single" | "double";
            /**
             * @description Coffee that trimming took off.
             * @default
             */
            trimmed?: string;
            /**
             * @description Of two half doses with a press between: which one.
             * @enum {string}
             */
            half?: "1" | "2" | "";
            /** @description It had come to rest. */
            settled?: boolean;
            /** @description An unusual figure really was so. */
            sure?: boolean;
            /** @description The row that this one corrects. */
            supersedes?: string | null;
            /** @description Why it is corrected, or comes later. */
            reason?: string | null;
        };
        AppendMoves: {
            /**
             * Format: uuid
             * @description A UUID of yours. Sent again with the same content it changes nothing; the row goes by it.
             */
            command_id: string;
            /**
             * @description The knob: opv, offset and so on; of a button, with its group.
             * @enum {string}
             */
            loop: "opv" | "line-regulator" | "pre-infusion" | "pressurestat" | "offset" | "temperature" | "basket" | "dose-1" | "single-1" | "double-long-1" | "single-long-1" | "fifth-1" | "sixth-1" | "dose-2" | "single-2" | "double-long-2" | "single-long-2" | "fifth-2" | "sixth-2" | "dose-3" | "single-3" | "double-long-3" | "single-long-3" | "fifth-3" | "sixth-3" | "dose-4" | "single-4" | "double-long-4" | "single-long-4" | "fifth-4" | "sixth-4";
            /** @description How far, as it is typed: “1/4”, “90°”, “2”. */
            amount: string;
            /**
             * @description plus: clockwise, or steps up; minus: the other way.
             * @enum {string}
             */
            way: "plus" | "minus";
            /** @description The gauge read zero, and the machine was switched off and unplugged. */
            zero?: boolean;
            /** @description The row that this one corrects. */
            supersedes?: string | null;
            /** @description Why it is corrected, or comes later. */
            reason?: string | null;
        };
        AppendShots: {
            /**
             * Format: uuid
             * @description A UUID of yours. Sent again with the same content it changes nothing; the row goes by it.
             */
            command_id: string;
            /**
             * @description Group, counted from 1.
             * @default 1
             * @enum {string}
             */
            group?: "1" | "2" | "3" | "4";
            /**
             * @description manual, or the button that measured it.
             * @default manual
             * @enum {string}
             */
            by?: "manual" | "double" | "single" | "double-long" | "single-long" | "fifth" | "sixth";
            /**
             * @description Coffee.
             * @default
             */
            coffee_name?: string;
            /** @description How dark it is roasted. */
            roast?: ("light" | "medium" | "dark") | "";
            /** @description Day it was roasted. */
            roasted_on?: "" | string;
            /**
             * @description Grinder.
             * @default
             */
            grinder_name?: string;
            /**
             * @description Which way on its scale is finer: 1 up, -1 down.
             * @default -1
             * @enum {string}
             */
            finer?: "1" | "-1";
            /**
             * @description Its smallest step.
             * @default 1
             */
            step?: string;
            /**
             * @description Lower end of its scale.
             * @default
             */
            lowest?: string;
            /**
             * @description Upper end of its scale.
             * @default
             */
            highest?: string;
            /**
             * @description Mark on the grinder’s scale; none where pre_ground.
             * @default
             */
            setting?: string;
            /**
             * @description Where the grinder’s own amount stands, counted in amount_kind.
             * @default
             */
            amount?: string;
            /**
             * @description What that amount is counted in.
             * @enum {string}
             */
            amount_kind?: "seconds" | "clock" | "threads" | "degrees" | "spring" | "notch" | "pulses";
            /**
             * @description Coffee in the basket, g.
             * @default
             */
            dose?: string;
            /**
             * @description Basket.
             * @default double
             * @enum {string}
             */
            basket?: "single" | "double";
            /**
             * @description Pre-infusion, s.
             * @default
             */
            pre_infusion?: string;
            /**
             * @description Pause after it, s.
             * @default
             */
            pause?: string;
            /**
             * @description Set point on the display, °C.
             * @default
             */
            set_point?: string;
            /**
             * @description Highest pressure at the group.
             * @default
             */
            peak?: string;
            /**
             * @description Steady pressure at the group.
             * @default
             */
            plateau?: string;
            /**
             * @description How long it ran, s.
             * @default
             */
            seconds?: string;
            /**
             * @description What the seconds count from.
             * @default pump
             * @enum {string}
             */
            from?: "button" | "pump" | "first-drop";
            /**
             * @description To the first drop, s.
             * @default
             */
            first_drop?: string;
            /**
             * @description In the cup at the end, g.
             * @default
             */
            yield?: string;
            /**
             * @description In the cup when it was stopped, g.
             * @default
             */
            at_stop?: string;
            /**
             * @description In the cup, ml.
             * @default
             */
            volume?: string;
            /**
             * @description Water that went in, by the meter, ml.
             * @default
             */
            water_in?: string;
            /**
             * @description Whether volume counts the crema.
             * @default with-crema
             * @enum {string}
             */
            crema?: "with-crema" | "without";
            /**
             * @description Water in the drip tray, ml.
             * @default
             */
            tray_ml?: string;
            /** @description Ground elsewhere. */
            pre_ground?: boolean;
            /** @description It choked. */
            choked?: boolean;
            /** @description How it ran. */
            flow?: ("gush" | "even" | "drip" | "spray" | "died") | "";
            /** @description How it tasted. */
            taste?: ("sour" | "balanced" | "bitter") | "";
            /** @description How strong it was. */
            strength?: ("weak" | "right" | "strong") | "";
            /**
             * @description Dissolved solids, %.
             * @default
             */
            tds?: string;
            /**
             * @description In words.
             * @default
             */
            note?: string;
            /** @description The scale it was weighed on, by its id in instruments. */
            scale_id?: (string | "") | null;
            /** @description The shot clock it was timed with, where one ran on the visit. */
            clock_id?: (string | "") | null;
            /** @description The row that this one corrects. */
            supersedes?: (string | "") | null;
            /**
             * @description Why it is corrected, or comes later.
             * @default
             */
            reason?: string;
            /** @description An unusual figure really was so. */
            sure?: boolean;
            /**
             * @description The unit that figures are typed in.
             * @default bar
             */
            unit?: string;
        };
        AppendWorkLines: {
            /**
             * Format: uuid
             * @description A UUID of yours. Sent again with the same content it changes nothing; the row goes by it.
             */
            command_id: string;
            /**
             * @description Photos of the visit that show it, by their ids.
             * @default []
             */
            photos?: string[];
            /**
             * @description Part or task.
             * @default
             */
            what?: string;
            /**
             * @description renewed, fitted, cleaned, descaled, descaled-apart, adjusted, freed, tested or other.
             * @default
             */
            how?: string;
            /**
             * @description Why.
             * @default
             */
            reason?: string;
            /**
             * @description What was seen.
             * @default
             */
            seen?: string;
            /**
             * @description done, declined, refused, postponed or open.
             * @default
             */
            outcome?: string;
            /**
             * @description Put off until this day.
             * @default
             */
            until?: string;
            /** @description Its failure can hurt somebody. */
            safety_critical?: boolean;
            /**
             * @description Minutes it took.
             * @default
             */
            minutes?: string;
            /**
             * @description In the workshop’s currency.
             * @default
             */
            price?: string;
            /**
             * @description Who did work that a licence is asked for.
             * @default
             */
            licensed_name?: string;
            /**
             * @description That licence.
             * @default
             */
            licence?: string;
            /**
             * @description Why a lead lets through what is refused else: no program may.
             * @default
             */
            exception?: string;
            /**
             * @description A safety-critical part of this kind of machine: safety-valve, boiler, element, cut-out, wiring, gas or back-flow. Empty: none of them.
             * @default
             */
            critical?: string;
            /**
             * @description What was done to that part: replaced, replaced-tested, put-off or out-of-use.
             * @default
             */
            act?: string;
            /** @description Answered: the safety-critical part that the words may name is not what the line is about. */
            not_critical?: boolean;
            /** @description Part that was used, by its id in parts. */
            part_id?: string | "";
            /**
             * @description How many of it.
             * @default
             */
            count?: string;
            /** @description An unusual figure really was so. */
            sure?: boolean;
            /** @description The knob that is a new one with this work, if any. */
            loop?: string;
            /** @description The row that this one corrects. */
            supersedes?: string | null;
        };
        Saved: {
            /** Format: uuid */
            id: string;
            /** @enum {string} */
            outcome: "done" | "repeated";
        };
        Problem: {
            title: string;
            status: number;
            detail: string;
            errors: {
                field: string;
                message: string;
            }[];
        };
    };
    responses: {
        /** @description No token, or one that opens nothing. */
        Unknown: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description Not this token’s, or not this person’s to do. */
        Forbidden: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description Nothing by that name in this workshop. */
        Nothing: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description Not understood or not allowed now: which field, and why. Nothing was saved. */
        Refused: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description This command_id was saved with other content before. */
        Clash: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description Too many requests: Retry-After says how long to wait. */
        TooMany: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
        /** @description The records do not answer now. Sending the same again is safe. */
        Down: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
    };
    parameters: never;
    requestBodies: never;
    headers: never;
    pathItems: never;
}
export type $defs = Record<string, never>;
export interface operations {
    listMachines: {
        parameters: {
            query?: {
                /** @description Rows of this machine alone. */
                machine_id?: string;
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of id. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MachinePage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    getMachine: {
        parameters: {
            query?: never;
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path: {
                /** @description Its id */
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The row. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Machine"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    listVisits: {
        parameters: {
            query?: {
                /** @description Rows of this machine alone. */
                machine_id?: string;
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of id. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["VisitPage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    appendVisit: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BeginVisit"];
            };
        };
        responses: {
            /** @description It was saved before; nothing changed. */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            /** @description Saved. */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            409: components["responses"]["Clash"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    getVisit: {
        parameters: {
            query?: never;
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path: {
                /** @description Its id */
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The row. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Visit"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    listReadings: {
        parameters: {
            query?: {
                /** @description Rows of this machine alone. */
                machine_id?: string;
                /** @description Rows of this visit alone, where the table has visits. */
                visit_id?: string;
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of visit_id, knob, id. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReadingPage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    listResults: {
        parameters: {
            query?: {
                /** @description Rows of this machine alone. */
                machine_id?: string;
                /** @description Rows of this visit alone, where the table has visits. */
                visit_id?: string;
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of visit_id, no. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ResultPage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    listMoves: {
        parameters: {
            query?: {
                /** @description Rows of this machine alone. */
                machine_id?: string;
                /** @description Rows of this visit alone, where the table has visits. */
                visit_id?: string;
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of visit_id, knob, id. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["MovePage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    listShots: {
        parameters: {
            query?: {
                /** @description Rows of this machine alone. */
                machine_id?: string;
                /** @description Rows of this visit alone, where the table has visits. */
                visit_id?: string;
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of visit_id, id. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ShotPage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    listProgrammes: {
        parameters: {
            query?: {
                /** @description Rows of this machine alone. */
                machine_id?: string;
                /** @description Rows of this visit alone, where the table has visits. */
                visit_id?: string;
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of visit_id, group_no, button. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ProgrammePage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    listWorkLines: {
        parameters: {
            query?: {
                /** @description Rows of this machine alone. */
                machine_id?: string;
                /** @description Rows of this visit alone, where the table has visits. */
                visit_id?: string;
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of visit_id, id. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WorkPage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    listParts: {
        parameters: {
            query?: {
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of id. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PartPage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    getPart: {
        parameters: {
            query?: never;
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path: {
                /** @description Its id */
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The row. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Part"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    listInstruments: {
        parameters: {
            query?: {
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of id. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["InstrumentPage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    getInstrument: {
        parameters: {
            query?: never;
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path: {
                /** @description Its id */
                id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The row. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Instrument"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    listPastVisits: {
        parameters: {
            query?: {
                /** @description Rows of this machine alone. */
                machine_id?: string;
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of file_id, line. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PastVisitPage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    listPastFigures: {
        parameters: {
            query?: {
                /** @description Rows of this machine alone. */
                machine_id?: string;
                /** @description Where the page before ended: its “after”. None: from the first row. */
                after?: string;
                /** @description Rows of a page. */
                limit?: number;
            };
            header?: {
                /** @description Tags of what you have. */
                "If-None-Match"?: string;
            };
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows in the order of file_id, line, no. */
            200: {
                headers: {
                    /** @description For If-None-Match. */
                    ETag?: string;
                    /** @description The next page, where there is one. */
                    Link?: string;
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PastFigurePage"];
                };
            };
            /** @description You have it already. */
            304: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    appendNotes: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                /** @description The visit, open */
                visit_id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AppendNotes"];
            };
        };
        responses: {
            /** @description It was saved before; nothing changed. */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            /** @description Saved. */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            409: components["responses"]["Clash"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    appendTicks: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                /** @description The visit, open */
                visit_id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AppendTicks"];
            };
        };
        responses: {
            /** @description It was saved before; nothing changed. */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            /** @description Saved. */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            409: components["responses"]["Clash"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    appendEntries: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                /** @description The visit, open */
                visit_id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AppendEntries"];
            };
        };
        responses: {
            /** @description It was saved before; nothing changed. */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            /** @description Saved. */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            409: components["responses"]["Clash"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    appendReadings: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                /** @description The visit, open */
                visit_id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AppendReadings"];
            };
        };
        responses: {
            /** @description It was saved before; nothing changed. */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            /** @description Saved. */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            409: components["responses"]["Clash"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    appendMoves: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                /** @description The visit, open */
                visit_id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AppendMoves"];
            };
        };
        responses: {
            /** @description It was saved before; nothing changed. */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            /** @description Saved. */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            409: components["responses"]["Clash"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    appendShots: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                /** @description The visit, open */
                visit_id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AppendShots"];
            };
        };
        responses: {
            /** @description It was saved before; nothing changed. */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            /** @description Saved. */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            409: components["responses"]["Clash"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
    appendWorkLines: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                /** @description The visit, open */
                visit_id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AppendWorkLines"];
            };
        };
        responses: {
            /** @description It was saved before; nothing changed. */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            /** @description Saved. */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Saved"];
                };
            };
            401: components["responses"]["Unknown"];
            403: components["responses"]["Forbidden"];
            404: components["responses"]["Nothing"];
            409: components["responses"]["Clash"];
            422: components["responses"]["Refused"];
            429: components["responses"]["TooMany"];
            503: components["responses"]["Down"];
        };
    };
}
