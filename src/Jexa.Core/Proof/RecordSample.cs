namespace Jexa.Core.Proof;

/// <summary>Chooses some of very many records, each as likely as any other, without knowing how many there will be.</summary>
/// <param name="most">How many are chosen.</param>
internal sealed class RecordSample(int most)
{
    private readonly Random _random = new(1);
    private readonly List<SampledRecord> _chosen = [];
    private long _offered;

    /// <summary>One that chooses none.</summary>
    public static RecordSample None { get; } = new(0);

    /// <summary>Those that were chosen of all that were offered.</summary>
    public IReadOnlyList<SampledRecord> Chosen => _chosen;

    /// <summary>Offers a record, which is only made if it is chosen.</summary>
    public void Offer(Func<SampledRecord?> make)
    {
        if (most == 0)
            return;
        var place = _chosen.Count < most ? _chosen.Count : _random.NextInt64(_offered + 1);
        _offered++;
        if (place >= most || make() is not { } record)
            return;
        if (place == _chosen.Count)
            _chosen.Add(record);
        else
            _chosen[(int)place] = record;
    }
}
