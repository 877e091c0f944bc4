global using Shouldly;
global using Xunit;
global using Sexton.Core.Sentences;
