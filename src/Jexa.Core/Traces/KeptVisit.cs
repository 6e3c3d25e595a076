using System.Globalization;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Traces;

/// <summary>
/// A trace as the log keeps it: the visit's own values as cells of one block, which a later visit uses again. Keeping the traces
/// themselves would give the garbage collector many objects to move.
/// </summary>
internal sealed class KeptVisit
{
    private readonly RowBlock _cells = new(32, 512);
    private TraceState _state;
    private IPreparedQuery? _query;
    private IPreparedQuery[] _moreQueries = [];

    public long Number => _state.Number;

    public Outcome? Outcome => _state.Outcome;

    /// <summary>The approximate memory that it keeps, in bytes.</summary>
    public int Size =>
        400
        + _cells.Capacity
        + (_moreQueries.Length * 8)
        + (((_state.Why?.Length ?? 0) + (_state.Location?.Length ?? 0) + (_state.Finding?.Length ?? 0)) * 2);

    public void Keep(VisitTrace trace)
    {
        _state = trace.State;
        _cells.Reset(1);
        Put(trace.Target);
        // If the target was cut, its beginning does not tell how it was read: the reading is kept.
        Put(trace.Reading is { } target && target.Raw.Length != trace.Target.Length ? target.Raw : null);
        Put(trace.Reading is null ? 0 : 1);
        Put(trace.Parameters.Count);
        for (var i = 0; i < trace.Parameters.Count; i++)
        {
            var (name, raw, reading) = trace.Parameters[i];
            Put(name);
            Put(raw);
            Put((long)reading.Fault);
            Put(reading.IsCanonical ? 1 : 0);
            Put(reading.Value);
        }

        Put(trace.Ignored.Count);
        for (var i = 0; i < trace.Ignored.Count; i++)
            Put(trace.Ignored[i]);
        var count = trace.Queries.Count;
        Put(count);
        _query = count == 0 ? null : trace.Queries[0].Query;
        _moreQueries = count > 1 ? new IPreparedQuery[count - 1] : [];
        for (var i = 0; i < count; i++)
        {
            if (i > 0)
                _moreQueries[i - 1] = trace.Queries[i].Query;
            Put(trace.Queries[i]);
        }
    }

    /// <summary>Makes the trace again.</summary>
    public VisitTrace Tell()
    {
        var cells = new Reader(_cells);
        var trace = new VisitTrace(_state, cells.Text()!);
        var whole = cells.Text() ?? trace.Target;
        if (cells.Number() == 1)
            trace.Reading = RequestTarget.Read(whole, trace.Site!.Frame.Mount);
        for (var left = cells.Number(); left > 0; left--)
        {
            var (name, raw, fault, isCanonical, value) = (
                cells.Text()!,
                cells.Text(),
                (KeyFault)cells.Number(),
                cells.Number() == 1,
                cells.TypedValue()
            );
            trace.Add(
                new TracedParameter(
                    name,
                    raw,
                    fault != KeyFault.None ? KeyReading.Failed(fault)
                        : value is null ? default
                        : KeyReading.Of(value, isCanonical)
                )
            );
        }

        for (var left = cells.Number(); left > 0; left--)
            trace.AddIgnored(cells.Text()!);
        var count = cells.Number();
        for (var i = 0; i < count; i++)
            trace.Add(cells.Query(i == 0 ? _query! : _moreQueries[i - 1]));
        return trace;
    }

    private void Put(in TracedQuery query)
    {
        Put(query.RowCount);
        Put(query.Ticks);
        Put(query.Remark);
        Put(query.Arguments.Count);
        for (var i = 0; i < query.Arguments.Count; i++)
            Put(query.Arguments[i]);
        Put(query.Rows?.Width ?? 0);
        Put(query.Rows?.Count ?? -1);
        if (query.Rows is { } rows)
            _cells.AppendCells(rows);
    }

    private void Put(long number)
    {
        _cells.BeginRow();
        _cells.AddNumber(CellKind.Integer, number);
    }

    private void Put(string? text)
    {
        _cells.BeginRow();
        if (text is null)
            _cells.AddNull();
        else
            _cells.AddText(text);
    }

    private void Put(TypedValue? value)
    {
        switch (value)
        {
            case TypedValue.Whole whole:
                Put(whole.Value);
                return;
            case TypedValue.Text text:
                Put(text.Value);
                return;
        }

        _cells.BeginRow();
        switch (value)
        {
            case TypedValue.Uuid uuid:
                Span<byte> sixteen = stackalloc byte[16];
                uuid.Value.TryWriteBytes(sixteen, bigEndian: true, out _);
                _cells.AddRun(CellKind.Uuid, sixteen);
                break;
            case TypedValue.Date date:
                _cells.AddNumber(CellKind.Date, date.Value.DayNumber);
                break;
            case TypedValue.Moment moment:
                _cells.AddNumber(CellKind.Timestamp, moment.Value.Ticks);
                break;
            case TypedValue.Number number:
                Span<byte> digits = stackalloc byte[40];
                number.Value.TryFormat(digits, out var written, default, CultureInfo.InvariantCulture);
                _cells.AddRun(CellKind.Decimal, digits[..written]);
                break;
            case TypedValue.Boolean truth:
                _cells.AddNumber(CellKind.Boolean, truth.Value ? 1 : 0);
                break;
            case TypedValue.Real real:
                _cells.AddReal(real.Value);
                break;
            case TypedValue.Bytes bytes:
                _cells.AddRun(CellKind.Bytes, bytes.Value);
                break;
            default:
                _cells.AddNull();
                break;
        }
    }

    /// <summary>Reads the cells in their order.</summary>
    private struct Reader(RowBlock cells)
    {
        private int _next;

        public long Number() => cells[_next++][0].Integer;

        public string? Text() => cells[_next++] is var row && row[0].IsNull ? null : row.Text(0);

        /// <summary>Null if absent; an empty value is stored the same way.</summary>
        public TypedValue? TypedValue()
        {
            var row = cells[_next++];
            ref readonly var cell = ref row[0];
            return cell.Kind switch
            {
                CellKind.Integer => new TypedValue.Whole(cell.Integer),
                CellKind.Text => new TypedValue.Text(row.Text(0)),
                CellKind.Uuid => new TypedValue.Uuid(new Guid(row.Run(0), bigEndian: true)),
                CellKind.Date => new TypedValue.Date(DateOnly.FromDayNumber((int)cell.Integer)),
                CellKind.Timestamp => new TypedValue.Moment(new DateTime(cell.Integer)),
                CellKind.Decimal => new TypedValue.Number(
                    decimal.Parse(row.Run(0), NumberStyles.Number, CultureInfo.InvariantCulture)
                ),
                CellKind.Boolean => new TypedValue.Boolean(cell.Integer == 1),
                CellKind.Real => new TypedValue.Real(cell.Real),
                CellKind.Bytes => new TypedValue.Bytes(row.Run(0).ToArray()),
                _ => null,
            };
        }

        public TracedQuery Query(IPreparedQuery query)
        {
            var (count, ticks, remark) = ((int)Number(), Number(), Text());
            var arguments = new TypedValue[Number()];
            for (var i = 0; i < arguments.Length; i++)
                arguments[i] = TypedValue() ?? Values.TypedValue.Empty.Value;
            var (width, kept) = ((int)Number(), (int)Number());
            if (kept < 0)
                return new TracedQuery(query, arguments, null, count, ticks) { Remark = remark };
            var rows = new RowBlock();
            rows.Reset(width);
            rows.AppendRows(cells, _next, kept);
            _next += width * kept;
            return new TracedQuery(query, arguments, rows, count, ticks) { Remark = remark };
        }
    }
}
