using Jexa.Core.Views;

namespace Jexa.Core.Bodies;

/// <summary>A condition of <c>data-needs</c> or <c>data-lacks</c>.</summary>
public abstract record BodyTest
{
    /// <summary>A field has a value; or this one, as it is stored.</summary>
    public sealed record Field(ViewColumn Column, string? Value) : BodyTest;

    /// <summary>A list or block has records. One that failed neither has them nor lacks them.</summary>
    /// <param name="Block">The number of the block; -1 for the list.</param>
    public sealed record Rows(int Block) : BodyTest;

    /// <summary>The page has something by itself; or its count is this one.</summary>
    public sealed record Own(BodyWord Word, int Block, string Name, long? Count) : BodyTest;
}
