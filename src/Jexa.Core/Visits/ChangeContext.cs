using System.Security.Cryptography;
using System.Text;
using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>What one visit to a page with a form has at hand.</summary>
internal sealed class ChangeContext(
    Site site,
    VisitRequest request,
    VisitTrace trace,
    RowLoans loans,
    CancellationToken cancellation
)
{
    public Site Site { get; } = site;

    public VisitRequest Request { get; } = request;

    public VisitTrace Trace { get; } = trace;

    public RowLoans Loans { get; } = loans;

    public CancellationToken Cancellation { get; } = cancellation;

    /// <summary>The secret that forms of this visitor are made for.</summary>
    public string Visitor { get; } = request.Visitor ?? Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));

    /// <summary>The secret, where the visitor's browser does not keep it yet.</summary>
    public string? NewVisitor => Request.Visitor is null && !Request.WantsJson ? Visitor : null;

    /// <summary>An answer with a form in it.</summary>
    public Answer Form(Outcome outcome, int status, Views.PageView view) =>
        new(outcome, status, view) { NewVisitor = NewVisitor, IsForOnce = true };
}

/// <summary>Tells versions of a record apart.</summary>
internal static class RecordVersion
{
    /// <summary>The record's version: a keyed digest over every column, as it is stored.</summary>
    /// <param name="page">What its representation hangs on besides.</param>
    public static string Of(Row row, IReadOnlyList<StoredColumn> columns, string page, byte[] key)
    {
        using var digest = IncrementalHash.CreateHMAC(HashAlgorithmName.SHA256, key);
        digest.AppendData(Encoding.UTF8.GetBytes(page));
        foreach (var column in columns)
        {
            var value = column.IsWithheld(row) ? StoredValue.Withheld : StoredValue.Of(row, column.Ordinal);
            var text = value is Constant.Bytes bytes ? Convert.ToHexString(bytes.Value) : value.ToString()!;
            digest.AppendData(Encoding.UTF8.GetBytes($"\n{column.Field.Name}:{value.GetType().Name}:{text.Length}:{text}"));
        }

        return Convert.ToHexStringLower(digest.GetHashAndReset().AsSpan(0, 12));
    }
}
