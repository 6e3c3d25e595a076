using System.Net;
using Jexa.Core.Addresses;
using Jexa.Core.Files;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Visits;
using Jexa.Service.Management;
using Jexa.Service.Pages;
using Jexa.Service.State;
using Jexa.Service.Telemetry;
using Jexa.Sources.Files;
using Jexa.Sources.Http;
using Jexa.Sources.MariaDb;
using Jexa.Sources.Postgres;
using Jexa.Sources.Sqlite;
using Microsoft.AspNetCore.Builder;
using Serilog;
using Serilog.Events;
using Serilog.Formatting.Json;

namespace Jexa.Service;

/// <summary>Why the service could not be started, as a sentence for whoever started it.</summary>
public sealed class StartException(string message, Exception? inner = null) : Exception(message, inner);
