using Jexa.Core.Definitions;

namespace Jexa.Core.Proof;

/// <summary>Collects faults: each once, with its number and a few examples.</summary>
public sealed class FaultList(int examples)
{
    private readonly Dictionary<(string Code, string About), Fault> _faults = [];

    /// <summary>The most examples of each.</summary>
    public int Most => examples;

    /// <summary>The faults, in the order of the app file.</summary>
    public IReadOnlyList<Fault> All =>
        [.. _faults.Values.OrderBy(fault => fault.At.Line).ThenBy(fault => fault.Code.Id).ThenBy(fault => fault.About)];

    /// <summary>Counts a fault once more.</summary>
    /// <param name="make">Makes the fault when it is met first; without number and examples.</param>
    public void Add(FindingCode code, string about, Func<Fault> make, FaultExample example, long times = 1)
    {
        var known = _faults.GetValueOrDefault((code.Id, about)) ?? make();
        _faults[(code.Id, about)] = known with
        {
            Count = known.Count + times,
            Examples = known.Examples.Count < examples ? [.. known.Examples, example] : known.Examples,
        };
    }

    /// <summary>Puts a fault in the place of one of the same code about the same.</summary>
    public void Put(Fault fault) => _faults[(fault.Code.Id, fault.About)] = fault;

    /// <summary>Takes a fault away that turned out to be none.</summary>
    public void Remove(Fault fault) => _faults.Remove((fault.Code.Id, fault.About));
}
