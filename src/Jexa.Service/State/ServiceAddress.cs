using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Jexa.Core.Files;

namespace Jexa.Service.State;

/// <summary>Where a running service can be reached, as the command line reads it.</summary>
public sealed record ServiceAddress(string PagesUrl, string ConsoleUrl, int ProcessId);
