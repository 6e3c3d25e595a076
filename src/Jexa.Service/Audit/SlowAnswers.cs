using Jexa.Core.Audit;
using Jexa.Core.Definitions;

namespace Jexa.Service.Audit;

/// <summary>Tells of answers that take much longer than a record usually does, each time that they are asked for.</summary>
internal sealed class SlowAnswers(IPageAsker asker, AuditNotes notes, IEnumerable<RecordVisit> right)
{
    /// <summary>Nobody complains of less.</summary>
    private static readonly TimeSpan Long = TimeSpan.FromSeconds(3);

    /// <summary>So many times what is usual.</summary>
    private const int Times = 10;

    /// <summary>The middle of what the records took.</summary>
    private readonly TimeSpan _usual = right.Select(visit => visit.Answer.Took).Order().ToList() is { Count: > 0 } all
        ? all[all.Count / 2]
        : TimeSpan.Zero;

    /// <summary>Tells of an answer if it is slow, and is so again.</summary>
    /// <param name="kind">The kind of row or ID.</param>
    public async Task CheckAsync(LinkGroup group, string kind, AuditAnswer answer, CancellationToken cancellation)
    {
        if (!IsSlow(answer))
            return;
        var again = await asker.GetAsync(answer.Asked, cancellation);
        if (IsSlow(again))
            notes.Tell(
                ProofCodes.AuditSlow,
                group.Pattern,
                kind,
                answer.Asked,
                FormattableString.Invariant(
                    $"it takes {answer.Took.TotalSeconds:0.0} s, and {again.Took.TotalSeconds:0.0} s when asked again; a record "
                ) + FormattableString.Invariant($"usually takes {_usual.TotalSeconds:0.00} s")
            );
    }

    private bool IsSlow(AuditAnswer answer) =>
        answer is { IsSilent: false, IsNone: false } && answer.Took >= Long && answer.Took >= Times * _usual;
}
