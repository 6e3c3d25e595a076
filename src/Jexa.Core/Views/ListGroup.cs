using Jexa.Core.Addresses;
using Jexa.Core.Formats;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

public sealed record ListGroup(string Title, IReadOnlyList<ListEntry> Lists);
