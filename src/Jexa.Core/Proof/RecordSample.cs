namespace Jexa.Core.Proof;

/// <summary>Chooses some of very many records, each as likely as any other, without knowing how many there will be.</summary>
/// <param name="most">How many are chosen.</param>
internal sealed class RecordSample(int most)
{
    private readonly Random _random = new(1);
    private readonly List<SampledRecord> _chosen = [];
    private long _offered;
    private long _place;

    /// <summary>One that chooses none.</summary>
    public static RecordSample None { get; } = new(0);

    /// <summary>Those that were chosen of all that were offered.</summary>
    public IReadOnlyList<SampledRecord> Chosen => _chosen;

    /// <summary>Whether the next record is chosen; then it is put.</summary>
    public bool Wants()
    {
        if (most == 0)
            return false;
        _place = _chosen.Count < most ? _chosen.Count : _random.NextInt64(_offered + 1);
        _offered++;
        return _place < most;
    }

    /// <summary>Puts the record that was just chosen; in the place of another if there are enough.</summary>
    public void Put(SampledRecord record)
    {
        if (_place == _chosen.Count)
            _chosen.Add(record);
        else
            _chosen[(int)_place] = record;
    }
}
