using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using Jexa.Core.Contracts;
using Jexa.Core.Edits;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Views;
using Jexa.Service.Clients;

namespace Jexa.Service.Contracts;

/// <summary>An address of a page that leads somewhere, and what it answers.</summary>
/// <param name="Ids">The texts of its parameters.</param>
/// <param name="Json">Null where nothing is to be shown.</param>
internal sealed record PageExample(IReadOnlyList<string> Ids, ReadOnlyMemory<byte>? Json);
