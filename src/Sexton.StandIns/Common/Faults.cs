namespace Sexton.StandIns.Common;

/// <summary>Lets an HTTP stand-in misbehave as its dial says, and lets the dial be turned.</summary>
internal static class Faults
{
    /// <summary>Wraps all endpoints of a group in the faults of a dial, and maps GET and PUT "dial" beside them.</summary>
    public static void MapDial(this RouteGroupBuilder group, Dial dial)
    {
        group.MapGet("dial", () => dial.Now);
        group.MapPut("dial", (DialSetting setting) => dial.Now = setting);
    }

    /// <summary>Applies the dial to one endpoint.</summary>
    public static TBuilder WithFaults<TBuilder>(this TBuilder builder, Dial dial)
        where TBuilder : IEndpointConventionBuilder =>
        builder.AddEndpointFilter(
            async (context, next) =>
            {
                if (dial.Now.Down)
                {
                    context.HttpContext.Abort();
                    return Results.Empty;
                }

                if (dial.Fails())
                {
                    await Task.Delay(dial.Now.SlowMs);
                    return Results.Problem(statusCode: 503, detail: "The dial is set to errors.");
                }

                // Carried out first, slow afterwards: to the caller a time-out then looks the same as a lost acknowledgement.
                var result = await next(context);
                await Task.Delay(dial.Now.SlowMs);
                if (dial.Loses())
                {
                    context.HttpContext.Abort();
                    return Results.Empty;
                }

                return result;
            }
        );
}
